import { formatIpv4 } from '../ipv4'
import { PLAN_ONLY, setPort, type PortRule } from './subject'

export const gatewayIsSelf: PortRule = {
  id: 'address.gateway-is-self',
  title: 'The device is its own gateway',
  severity: 'will-not-work',
  summary: 'The gateway of a port equals its own address, so it would send what leaves its subnet to itself.',
  appliesTo: ({ port }) => port.gateway !== undefined,
  check: ({ port, address }) => port.gateway !== address,
  found: ({ address }) => formatIpv4(address),
  expected: ({ network }) => (network?.gateway === undefined ? 'no gateway' : formatIpv4(network.gateway)),
  why: ({ port }) => `${port.tag} would send everything that leaves its subnet to itself.`,
  fixes: ({ port, network, address }) => {
    const gateway = network?.gateway
    return gateway !== undefined && gateway !== address
      ? [
          {
            label: `Use ${formatIpv4(gateway)}`,
            sideEffect: PLAN_ONLY,
            edits: [setPort(port, 'gateway', formatIpv4(gateway))],
          },
        ]
      : [{ label: 'Leave the gateway empty', sideEffect: PLAN_ONLY, edits: [setPort(port, 'gateway', null)] }]
  },
  source: 'common practice, no source',
}
