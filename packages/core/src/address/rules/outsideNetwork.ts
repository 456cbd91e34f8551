import { formatIpv4 } from '../ipv4'
import { isPublic, specialBlockOf } from '../special'
import { contains, formatSubnet } from '../subnet'
import { moveTo, moveToFree, probablyMeant, type PortRule } from './subject'

export const outsideNetwork: PortRule = {
  id: 'address.outside-network',
  title: 'Outside its network',
  severity: 'will-not-work',
  summary: 'The address is not in the network that the port is planned for, so nothing there can reach it directly.',
  // Public and special addresses have rules of their own that say more.
  appliesTo: ({ network, address }) =>
    network !== undefined && !isPublic(address) && (specialBlockOf(address)?.suitsDevices ?? true),
  check: ({ network, address }) => !network || contains(network.subnet, address),
  found: ({ address }) => formatIpv4(address),
  expected: ({ network }) => `an address in ${network ? formatSubnet(network.subnet) : 'its network'}`,
  why: ({ port, network }) =>
    `${port.tag} is planned for ${network?.name ?? 'its network'}. From there it could be reached only through a router.`,
  fixes: (subject) => {
    const { port, network } = subject
    if (!network || port.proven) return []
    const meant = probablyMeant(subject).slice(0, 1)
    return [...meant.map((candidate) => moveTo(port, candidate)), ...moveToFree(subject)]
  },
  source: 'RFC 1122 3.3.1.1',
}
