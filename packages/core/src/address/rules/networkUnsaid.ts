import { formatIpv4 } from '../ipv4'
import { contains } from '../subnet'
import { aboutPort, PLAN_ONLY, type PortInPlan, type PortRule } from './subject'

const holders = ({ address, index }: PortInPlan) =>
  index.plan.networks.filter((network) => contains(network.subnet, address))

export const networkUnsaid: PortRule = {
  id: 'address.network-unsaid',
  title: 'Network not said',
  severity: 'will-not-work',
  summary: 'The port has a planned address and no network: its mask is not known, and its device is not walked.',
  appliesTo: () => true,
  check: ({ network }) => network !== undefined,
  found: ({ address }) => `${formatIpv4(address)}, no network`,
  expected: (subject) => {
    const names = holders(subject).map(({ name }) => name)
    return names.length > 0 ? `the network that holds it: ${names.join(' or ')}` : 'a network of the job that holds it'
  },
  why: ({ port }) => `Nothing sets or looks for ${port.tag} until it is said which network it is in.`,
  fixes: (subject) =>
    holders(subject).map((network) => ({
      label: `Put ${subject.port.tag} into ${network.name}`,
      sideEffect: PLAN_ONLY,
      edits: [{ subject: aboutPort(subject.port), field: 'networkId', value: network.id }],
    })),
  source: 'common practice, no source',
}
