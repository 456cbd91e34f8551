import { formatIpv4 } from '../ipv4'
import { PLAN_ONLY, setPort, type PortRule } from './subject'

export const gatewayMissing: PortRule = {
  id: 'address.gateway-missing',
  title: 'No gateway entered',
  severity: 'worth-knowing',
  summary: 'The network has a gateway, the port has none: it answers inside its subnet only.',
  appliesTo: ({ network }) => network?.gateway !== undefined,
  check: ({ port }) => port.gateway !== undefined,
  found: () => 'none',
  expected: ({ network }) => (network?.gateway === undefined ? 'none' : formatIpv4(network.gateway)),
  why: ({ port }) => `${port.tag} can be reached from its own subnet only. On an isolated network that may be wanted.`,
  fixes: ({ port, network }) =>
    network?.gateway === undefined
      ? []
      : [
          {
            label: `Fill in ${formatIpv4(network.gateway)}`,
            sideEffect: PLAN_ONLY,
            edits: [setPort(port, 'gateway', formatIpv4(network.gateway))],
          },
        ],
  source: 'common practice, no source; two schools: leave it empty, or fill the planned router in now',
}
