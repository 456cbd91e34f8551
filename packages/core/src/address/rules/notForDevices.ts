import { formatIpv4 } from '../ipv4'
import { describeBlock, specialBlockOf } from '../special'
import { moveTo, moveToFree, probablyMeant, type PortRule } from './subject'

export const notForDevices: PortRule = {
  id: 'address.special-block',
  title: 'Not an address for a device',
  severity: 'will-not-work',
  summary: 'The address is in a block kept for loopback, multicast, documentation or another special purpose.',
  appliesTo: ({ address }) => specialBlockOf(address)?.kind !== 'link-local',
  check: ({ address }) => specialBlockOf(address)?.suitsDevices ?? true,
  found: ({ address }) => formatIpv4(address),
  expected: (subject) => {
    const [likely] = probablyMeant(subject)
    return likely === undefined ? 'a private address' : `a private address, probably ${formatIpv4(likely)}`
  },
  why: (subject) => {
    const special = specialBlockOf(subject.address)
    const [likely] = probablyMeant(subject)
    const octet = likely === undefined ? '' : ` One number differs from ${formatIpv4(likely)}.`
    return `${formatIpv4(subject.address)} lies in a block kept for: ${special ? describeBlock(special) : 'a special purpose'}.${octet}`
  },
  fixes: (subject) => {
    if (subject.port.proven) return []
    const meant = probablyMeant(subject).slice(0, 2)
    return [...meant.map((candidate) => moveTo(subject.port, candidate)), ...moveToFree(subject)]
  },
  source: 'RFC 6890 2.2.2',
}
