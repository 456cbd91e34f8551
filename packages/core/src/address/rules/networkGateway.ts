import { formatIpv4 } from '../ipv4'
import { formatSubnet, hostsOf, placeIn } from '../subnet'
import { aboutNetwork, type NetworkRule } from './subject'

export const networkGateway: NetworkRule = {
  id: 'network.gateway-outside',
  title: 'Gateway is not a host of the network',
  severity: 'will-not-work',
  summary: 'The gateway written down for a network is not a host address of it.',
  appliesTo: ({ network }) => network.gateway !== undefined,
  check: ({ network }) => network.gateway === undefined || placeIn(network.subnet, network.gateway) === 'host',
  found: ({ network }) => (network.gateway === undefined ? 'none' : formatIpv4(network.gateway)),
  expected: ({ network }) => `a host of ${formatSubnet(network.subnet)}`,
  why: ({ network }) => `No device in ${network.name} could reach this gateway.`,
  fixes: ({ network }) => [
    {
      label: `Use ${formatIpv4(hostsOf(network.subnet).first)}, the first host`,
      sideEffect: 'Ask the owner of the network first.',
      edits: [{ subject: aboutNetwork(network), field: 'gateway', value: formatIpv4(hostsOf(network.subnet).first) }],
    },
    {
      label: 'Leave the gateway empty',
      sideEffect: 'Nothing then leaves this network.',
      edits: [{ subject: aboutNetwork(network), field: 'gateway', value: null }],
    },
  ],
  source: 'RFC 1122 3.3.1.2',
}
