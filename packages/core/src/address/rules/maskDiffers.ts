import { formatMask } from '../prefix'
import { PLAN_ONLY, setPort, type PortRule } from './subject'

export const maskDiffers: PortRule = {
  id: 'address.mask-differs',
  title: 'Another mask than its network',
  severity: 'will-not-work',
  summary: 'The subnet mask of a port is not the mask of its network; some answers go the wrong way and are lost.',
  appliesTo: ({ port, network }) => port.prefix !== undefined && network !== undefined,
  check: ({ port, network }) => port.prefix === network?.subnet.prefix,
  found: ({ port }) => (port.prefix === undefined ? 'none' : formatMask(port.prefix)),
  expected: ({ network }) => (network ? formatMask(network.subnet.prefix) : 'the mask of its network'),
  why: ({ port, network }) =>
    port.prefix !== undefined && network && port.prefix > network.subnet.prefix
      ? `By its own mask ${port.tag} takes part of ${network.name} for another network and answers through a gateway.`
      : `By its own mask ${port.tag} takes foreign addresses for neighbours and never asks the gateway.`,
  fixes: ({ port, network }) =>
    network
      ? [
          {
            label: `Use ${formatMask(network.subnet.prefix)}`,
            sideEffect: PLAN_ONLY,
            edits: [setPort(port, 'prefix', String(network.subnet.prefix))],
          },
        ]
      : [],
  source: 'RFC 1122 3.3.1.1',
}
