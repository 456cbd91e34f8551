import { formatIpv4 } from '../ipv4'
import { moveToFree, type PortRule } from './subject'

export const isGateway: PortRule = {
  id: 'address.is-gateway',
  title: 'Sits on the gateway’s address',
  severity: 'will-not-work',
  summary: 'A port is planned at the address of its network’s gateway; both would answer for it.',
  appliesTo: ({ network }) => network?.gateway !== undefined,
  check: ({ network, address }) => network?.gateway !== address,
  found: ({ address }) => formatIpv4(address),
  expected: () => 'an address that the router does not have',
  why: ({ port, network }) =>
    `${port.tag} would take the address of the router of ${network?.name ?? 'its network'}. All that leaves the subnet would go to it.`,
  fixes: (subject) => moveToFree(subject, subject.address),
  source: 'RFC 5227 1',
}
