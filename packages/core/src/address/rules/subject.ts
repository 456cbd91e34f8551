import { PLAN_ONLY, type Edit, type Fix, type Rule } from '../../findings'
import { likelyIntended } from '../intended'
import { formatIpv4, type Ipv4 } from '../ipv4'
import type { PlannedNetwork, PlannedPort } from '../plan'
import type { PlanIndex } from '../planIndex'
import { contains } from '../subnet'

/** A port that has an address, with its network where it has one. */
export interface PortInPlan {
  readonly port: PlannedPort
  readonly address: Ipv4
  readonly network: PlannedNetwork | undefined
  readonly index: PlanIndex
}

export interface NetworkInPlan {
  readonly network: PlannedNetwork
  readonly index: PlanIndex
}

export type PortRule = Rule<PortInPlan>
export type NetworkRule = Rule<NetworkInPlan>

export { PLAN_ONLY }

export const aboutPort = (port: PlannedPort) => ({ kind: 'port', id: port.id }) as const
export const aboutNetwork = (network: PlannedNetwork) => ({ kind: 'network', id: network.id }) as const

export function setPort(port: PlannedPort, field: 'address' | 'gateway' | 'prefix', value: string | null): Edit {
  return { subject: aboutPort(port), field, value }
}

/** Moves a port to one address. */
export function moveTo(port: PlannedPort, address: Ipv4): Fix {
  const text = formatIpv4(address)
  return { label: `Move ${port.tag} to ${text}`, sideEffect: PLAN_ONLY, edits: [setPort(port, 'address', text)] }
}

/**
 * What was probably meant by an address: in the port's own network where it has one, else in any of the plan. Only
 * what may be given away, so that taking it makes no new finding.
 */
export function probablyMeant({ port, address, network, index }: PortInPlan): readonly Ipv4[] {
  const networks = network ? [network] : index.plan.networks
  const likely = likelyIntended(
    address,
    networks.map((each) => each.subnet),
    (candidate) => index.isFree(candidate) && candidate !== port.gateway,
  )
  return likely.filter((candidate) => !network || contains(network.subnet, candidate))
}

/** Moves a port to a free address of its network; nothing when it is proven or every address is taken. */
export function moveToFree({ port, network, index }: Omit<PortInPlan, 'address'>, near?: Ipv4): readonly Fix[] {
  if (port.proven || !network) return []
  const free = index.propose(network, near)
  return free === undefined ? [] : [moveTo(port, free)]
}
