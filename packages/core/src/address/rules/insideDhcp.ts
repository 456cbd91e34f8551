import { formatIpv4 } from '../ipv4'
import { formatRanges, inRange } from '../range'
import { moveToFree, type PortRule } from './subject'

export const insideDhcp: PortRule = {
  id: 'address.inside-dhcp-range',
  title: 'Inside the DHCP range',
  severity: 'will-not-work',
  summary: 'A static address lies in a range that the DHCP server gives out; one day another device gets it too.',
  appliesTo: ({ port, network }) => port.leased !== true && (network?.dhcp.length ?? 0) > 0,
  check: ({ network, address }) => !network?.dhcp.some((range) => inRange(range, address)),
  found: ({ address }) => formatIpv4(address),
  expected: ({ network }) => `an address outside ${formatRanges(network?.dhcp ?? [])}`,
  why: ({ port }) => `The DHCP server may give the address of ${port.tag} to another device. It works until that day.`,
  fixes: (subject) => moveToFree(subject, subject.address),
  source: 'RFC 2131 3.1 (a server hands out any address of its pool); common practice',
}
