import { formatSubnet } from '../subnet'
import { aboutNetwork, type NetworkRule } from './subject'

export const networksOverlap: NetworkRule = {
  id: 'network.overlap',
  title: 'Two networks share addresses',
  severity: 'will-not-work',
  summary: 'The address blocks of two networks overlap, so a router or a laptop cannot tell them apart.',
  appliesTo: () => true,
  check: ({ network, index }) => index.overlapping(network).length === 0,
  found: ({ network }) => formatSubnet(network.subnet),
  expected: () => 'blocks that share no address',
  why: ({ network, index }) =>
    `${network.name} and ${index
      .overlapping(network)
      .map((other) => `${other.name} (${formatSubnet(other.subnet)})`)
      .join(', ')} share addresses. A laptop in both sends to whichever route it likes.`,
  others: ({ network, index }) => index.overlapping(network).map(aboutNetwork),
  fixes: () => [],
  source: 'RFC 4632 3.1, 5.1',
}
