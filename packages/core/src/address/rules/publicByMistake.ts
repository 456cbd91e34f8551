import { likelyIntended } from '../intended'
import { formatIpv4 } from '../ipv4'
import { isPublic } from '../special'
import { contains } from '../subnet'
import { moveTo, moveToFree, type PortInPlan, type PortRule } from './subject'

const intended = ({ address, index, network }: PortInPlan) => {
  const own = network ? [network.subnet] : []
  const near = likelyIntended(address, own)
  return near.length > 0
    ? near
    : likelyIntended(
        address,
        index.plan.networks.map((each) => each.subnet),
      )
}

export const publicByMistake: PortRule = {
  id: 'address.public-by-mistake',
  title: 'A public address',
  severity: 'will-not-work',
  summary: 'The address belongs to somebody on the internet. Mostly one octet was mistyped: 193.168 for 192.168.',
  appliesTo: ({ network, address }) => !(network && contains(network.subnet, address)),
  check: ({ address }) => !isPublic(address),
  found: ({ address }) => formatIpv4(address),
  expected: (subject) => {
    const [likely] = intended(subject)
    return likely === undefined ? 'a private address' : `a private address, probably ${formatIpv4(likely)}`
  },
  why: (subject) => {
    const [likely] = intended(subject)
    const octet = likely === undefined ? '' : ` One number differs from ${formatIpv4(likely)}.`
    return `${formatIpv4(subject.address)} is a public address and in no network of this job.${octet}`
  },
  fixes: (subject) => {
    if (subject.port.proven) return []
    const free = intended(subject).filter((candidate) => subject.index.holders(candidate).length === 0)
    return [...free.slice(0, 2).map((candidate) => moveTo(subject.port, candidate)), ...moveToFree(subject)]
  },
  source: 'RFC 1918 3; RFC 6890',
}
