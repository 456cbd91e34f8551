import { groupedBy } from '../units'
import { freeAddressNear, type Taken } from './free'
import { ipv4FromBits, type Ipv4 } from './ipv4'
import type { Plan, PlannedNetwork, PlannedPort } from './plan'
import { inRange, rangesOverlap } from './range'
import { blockOf, contains, hostsOf, placeIn } from './subnet'

/** The plan with what rules look up many times: who holds an address, what is taken in a network. */
export interface PlanIndex {
  readonly plan: Plan
  readonly network: (id: string | undefined) => PlannedNetwork | undefined
  readonly holders: (address: Ipv4) => readonly PlannedPort[]
  readonly withMac: (mac: string) => readonly PlannedPort[]
  readonly overlapping: (network: PlannedNetwork) => readonly PlannedNetwork[]
  /** A free address of the network near another one; `undefined` when all are taken. */
  readonly propose: (network: PlannedNetwork, near?: Ipv4) => Ipv4 | undefined
  readonly taken: (network: PlannedNetwork) => Taken
  /** Nobody's address, and a host that may be given away in every network of the plan that holds it. */
  readonly isFree: (address: Ipv4) => boolean
}

export function indexPlan(plan: Plan): PlanIndex {
  const networks = new Map(plan.networks.map((network) => [network.id, network]))
  const holders = groupedBy(plan.ports, (port) => port.address)
  const macs = groupedBy(plan.ports, (port) => port.mac)
  const laptop = plan.laptop.map((entry) => entry.address)
  const everyAddress = new Set([...holders.keys(), ...laptop])
  const takenOf = new Map<string, Taken>()
  const taken = (network: PlannedNetwork): Taken => {
    const known = takenOf.get(network.id)
    if (known) return known
    // Ranges of overlapping networks count too: what they lease or keep is on the same wire.
    const neighbours = plan.networks.filter((other) => rangesOverlap(blockOf(other.subnet), blockOf(network.subnet)))
    const made: Taken = {
      addresses: new Set([
        ...[...everyAddress].filter((address) => contains(network.subnet, address)),
        ...neighbours.flatMap((other) => (other.gateway === undefined ? [] : [other.gateway])),
        ...neighbours.flatMap((other) =>
          other.subnet.prefix >= 31 ? [] : [other.subnet.base, blockOf(other.subnet).last],
        ),
      ]),
      ranges: neighbours.flatMap((other) => [...other.dhcp, ...other.reserved]),
    }
    takenOf.set(network.id, made)
    return made
  }
  return {
    plan,
    network: (id) => (id === undefined ? undefined : networks.get(id)),
    holders: (address) => holders.get(address) ?? [],
    withMac: (mac) => macs.get(mac) ?? [],
    overlapping: (network) =>
      plan.networks.filter(
        (other) => other !== network && rangesOverlap(blockOf(other.subnet), blockOf(network.subnet)),
      ),
    propose: (network, near) =>
      freeAddressNear(network.subnet, taken(network), near ?? ipv4FromBits(hostsOf(network.subnet).first)),
    taken,
    isFree: (address) =>
      !everyAddress.has(address) &&
      plan.networks
        .filter((network) => contains(network.subnet, address))
        .every((network) => {
          const held = taken(network)
          return (
            placeIn(network.subnet, address) === 'host' &&
            !held.addresses.has(address) &&
            !held.ranges.some((range) => inRange(range, address))
          )
        }),
  }
}
