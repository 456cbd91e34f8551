import { formatIpv4 } from '../ipv4'
import { isPublic } from '../special'
import { contains } from '../subnet'
import { moveTo, moveToFree, probablyMeant, type PortRule } from './subject'

export const publicByMistake: PortRule = {
  id: 'address.public-by-mistake',
  title: 'A public address',
  severity: 'will-not-work',
  summary: 'The address belongs to somebody on the internet. Mostly one octet was mistyped: 193.168 for 192.168.',
  appliesTo: ({ network, address }) => !(network && contains(network.subnet, address)),
  check: ({ address }) => !isPublic(address),
  found: ({ address }) => formatIpv4(address),
  expected: (subject) => {
    const [likely] = probablyMeant(subject)
    return likely === undefined ? 'a private address' : `a private address, probably ${formatIpv4(likely)}`
  },
  why: (subject) => {
    const [likely] = probablyMeant(subject)
    const octet = likely === undefined ? '' : ` One number differs from ${formatIpv4(likely)}.`
    return `${formatIpv4(subject.address)} is a public address and in no network of this job.${octet}`
  },
  fixes: (subject) => {
    if (subject.port.proven) return []
    const meant = probablyMeant(subject).slice(0, 2)
    return [...meant.map((candidate) => moveTo(subject.port, candidate)), ...moveToFree(subject)]
  },
  source: 'RFC 1918 3; RFC 6890',
}
