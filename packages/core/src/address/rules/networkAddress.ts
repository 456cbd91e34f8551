import { formatIpv4 } from '../ipv4'
import { formatSubnet, placeIn } from '../subnet'
import { moveToFree, type PortRule } from './subject'

export const networkAddress: PortRule = {
  id: 'address.network-address',
  title: 'This is the network itself',
  severity: 'will-not-work',
  summary: 'The first address of a subnet names the network; no device may have it (except in a /31 or /32).',
  appliesTo: ({ network }) => network !== undefined,
  check: ({ network, address }) => !network || placeIn(network.subnet, address) !== 'network',
  found: ({ address }) => formatIpv4(address),
  expected: ({ network }) => `a host address of ${network ? formatSubnet(network.subnet) : 'its network'}`,
  why: ({ port, network }) =>
    `${port.tag} would take the first address of ${network?.name ?? 'its network'}, which names the network. Most devices refuse it.`,
  fixes: (subject) => moveToFree(subject, subject.address),
  source: 'RFC 1122 3.2.1.3; RFC 3021 for /31',
}
