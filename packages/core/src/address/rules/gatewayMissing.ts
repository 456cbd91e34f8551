import { formatIpv4 } from '../ipv4'
import { PLAN_ONLY, setPort, type PortRule } from './subject'

export const gatewayMissing: PortRule = {
  id: 'address.gateway-missing',
  title: 'No gateway entered',
  severity: 'worth-knowing',
  summary: 'The network has a gateway, the port has none: it answers inside its subnet only.',
  // A lease brings the gateway with it: the server's list says it, not the device.
  appliesTo: ({ network, port }) => network?.gateway !== undefined && port.leased !== true,
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
  source:
    'RFC 2132 3.5 (a lease names the router); common practice, no source; two schools: leave it empty, or fill the planned router in now',
}
