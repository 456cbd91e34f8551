import { formatIpv4 } from '../ipv4'
import { describeBlock, specialBlockOf } from '../special'
import { moveToFree, type PortRule } from './subject'

export const notForDevices: PortRule = {
  id: 'address.special-block',
  title: 'Not an address for a device',
  severity: 'will-not-work',
  summary: 'The address is in a block kept for loopback, multicast, documentation or another special purpose.',
  appliesTo: ({ address }) => specialBlockOf(address)?.kind !== 'link-local',
  check: ({ address }) => specialBlockOf(address)?.suitsDevices ?? true,
  found: ({ address }) => formatIpv4(address),
  expected: () => 'a private address',
  why: ({ address }) => {
    const special = specialBlockOf(address)
    return `${formatIpv4(address)} lies in a block kept for: ${special ? describeBlock(special) : 'a special purpose'}.`
  },
  fixes: (subject) => moveToFree(subject),
  source: 'RFC 6890 2.2.2',
}
