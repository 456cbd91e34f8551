import { formatIpv4 } from '../ipv4'
import { formatSubnet, placeIn } from '../subnet'
import { moveToFree, type PortRule } from './subject'

export const broadcastAddress: PortRule = {
  id: 'address.broadcast-address',
  title: 'This is the broadcast address',
  severity: 'will-not-work',
  summary: 'The last address of a subnet reaches every device in it; none may have it (except in a /31 or /32).',
  appliesTo: ({ network }) => network !== undefined,
  check: ({ network, address }) => !network || placeIn(network.subnet, address) !== 'broadcast',
  found: ({ address }) => formatIpv4(address),
  expected: ({ network }) => `a host address of ${network ? formatSubnet(network.subnet) : 'its network'}`,
  why: ({ port, network }) =>
    `${port.tag} would take the last address of ${network?.name ?? 'its network'}, which speaks to every device at once.`,
  fixes: (subject) => moveToFree(subject, subject.address),
  source: 'RFC 919 7; RFC 1122 3.2.1.3; RFC 3021 for /31',
}
