import { formatIpv4 } from '../ipv4'
import { aboutPort, moveToFree, type PortRule } from './subject'

const twinsOf = ({ port, address, index }: Parameters<PortRule['check']>[0]) =>
  index.holders(address).filter((other) => other !== port)

export const duplicate: PortRule = {
  id: 'address.duplicate',
  title: 'Two devices, one address',
  severity: 'will-not-work',
  summary: 'Two ports are planned at one address. Whichever answered last is heard, and both look believable.',
  appliesTo: () => true,
  check: (subject) => twinsOf(subject).length === 0,
  found: ({ address }) => formatIpv4(address),
  expected: () => 'an address that no other device has',
  why: (subject) =>
    `${[subject.port, ...twinsOf(subject)].map((port) => port.tag).join(' and ')} are headed for ${formatIpv4(subject.address)}. ` +
    'A controller would hear whichever of them spoke last.',
  others: (subject) => twinsOf(subject).map(aboutPort),
  fixes: (subject) => [
    ...moveToFree(subject, subject.address),
    ...twinsOf(subject)
      .slice(0, 1)
      .flatMap((twin) =>
        moveToFree(
          { port: twin, network: subject.index.network(twin.networkId), index: subject.index },
          subject.address,
        ),
      ),
  ],
  source: 'RFC 5227 1 (two hosts with one address disturb each other)',
}
