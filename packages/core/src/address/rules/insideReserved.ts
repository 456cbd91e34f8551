import { formatIpv4 } from '../ipv4'
import { formatRanges, inRange } from '../range'
import { moveToFree, type PortRule } from './subject'

export const insideReserved: PortRule = {
  id: 'address.reserved',
  title: 'In a reserved range',
  severity: 'worth-knowing',
  summary: 'The address lies in a range that was kept back for something else.',
  appliesTo: ({ network }) => (network?.reserved.length ?? 0) > 0,
  check: ({ network, address }) => !network?.reserved.some((range) => inRange(range, address)),
  found: ({ address }) => formatIpv4(address),
  expected: ({ network }) => `an address outside ${formatRanges(network?.reserved ?? [])}`,
  why: ({ port, network }) => `${network?.name ?? 'The network'} keeps this range back; ${port.tag} takes one of it.`,
  fixes: (subject) => moveToFree(subject, subject.address),
  source: 'common practice, no source',
}
