import { formatRanges, type AddressRange } from '../range'
import { contains, formatSubnet } from '../subnet'
import type { NetworkInPlan, NetworkRule } from './subject'

const strays = ({ network }: NetworkInPlan): readonly AddressRange[] =>
  [...network.dhcp, ...network.reserved].filter(
    (range) => !contains(network.subnet, range.first) || !contains(network.subnet, range.last),
  )

export const networkRanges: NetworkRule = {
  id: 'network.range-outside',
  title: 'A range outside the network',
  severity: 'worth-knowing',
  summary: 'A DHCP or reserved range of a network is not wholly inside it: mostly a wrong octet or an old plan.',
  appliesTo: () => true,
  check: (subject) => strays(subject).length === 0,
  found: (subject) => formatRanges(strays(subject)),
  expected: ({ network }) => `ranges inside ${formatSubnet(network.subnet)}`,
  why: ({ network }) => `What lies outside ${network.name} keeps nothing back in it.`,
  fixes: () => [],
  source: 'common practice, no source',
}
