import { formatIpv4 } from '../ipv4'
import { formatSubnet, placeIn, subnetOf } from '../subnet'
import { PLAN_ONLY, setPort, type PortInPlan, type PortRule } from './subject'

/** The subnet as the device sees it: by its own mask where it has one. */
const ownSubnet = ({ port, address, network }: PortInPlan) => {
  const prefix = port.prefix ?? network?.subnet.prefix
  return prefix === undefined ? undefined : subnetOf(address, prefix)
}

export const gatewayOutside: PortRule = {
  id: 'address.gateway-outside',
  title: 'Gateway cannot be reached',
  severity: 'will-not-work',
  summary: 'The gateway of a port is not a host of the port’s own subnet, so nothing ever gets to it.',
  appliesTo: (subject) =>
    subject.port.gateway !== undefined && subject.port.gateway !== subject.address && ownSubnet(subject) !== undefined,
  check: (subject) => {
    const own = ownSubnet(subject)
    return !own || subject.port.gateway === undefined || placeIn(own, subject.port.gateway) === 'host'
  },
  found: ({ port }) => (port.gateway === undefined ? 'none' : formatIpv4(port.gateway)),
  expected: (subject) => {
    const own = ownSubnet(subject)
    return `a host of ${own ? formatSubnet(own) : 'its subnet'}, or none`
  },
  why: ({ port }) => `By its own mask ${port.tag} has no way to its gateway. What leaves the subnet is lost.`,
  fixes: ({ port, network }) => [
    ...(network?.gateway !== undefined && network.gateway !== port.gateway
      ? [
          {
            label: `Use ${formatIpv4(network.gateway)}, the gateway of ${network.name}`,
            sideEffect: PLAN_ONLY,
            edits: [setPort(port, 'gateway', formatIpv4(network.gateway))],
          },
        ]
      : []),
    {
      label: 'Leave the gateway empty',
      sideEffect: 'Nothing then leaves its subnet.',
      edits: [setPort(port, 'gateway', null)],
    },
  ],
  source: 'RFC 1122 3.3.1.2',
}
