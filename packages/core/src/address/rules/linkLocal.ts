import { formatIpv4 } from '../ipv4'
import { specialBlockOf } from '../special'
import { moveToFree, type PortRule } from './subject'

export const linkLocal: PortRule = {
  id: 'address.link-local',
  title: 'It did not get an address',
  severity: 'will-not-work',
  summary: 'A link-local address (169.254.x.x) is what a device gives itself when no DHCP server answered.',
  appliesTo: () => true,
  check: ({ address }) => specialBlockOf(address)?.kind !== 'link-local',
  found: ({ address }) => formatIpv4(address),
  expected: () => 'an address of one of the networks',
  why: ({ port }) => `${port.tag} asked for an address, nobody answered, and it gave itself one.`,
  fixes: (subject) => moveToFree(subject),
  source: 'RFC 3927 1.9',
}
