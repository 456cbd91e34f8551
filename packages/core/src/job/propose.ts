import { freeAddresses, indexPlan, octetsOf, type Ipv4, type LaptopAddress } from '../address'
import { addressPlanOf } from './addressPlan'
import { deviceKinds } from './kinds'
import type { DeviceKind, Job } from './model'

/** A free address with the reasons that make it one. */
export interface Proposal {
  readonly address: Ipv4
  readonly reasons: readonly string[]
}

/**
 * A free address for a device of a kind: from the block that is usual for it, else the first free one of the network.
 * @returns `undefined` when every address of the network is taken, or there is no such network
 */
export function proposeAddress(
  job: Job,
  networkId: string,
  kind: DeviceKind,
  laptop: readonly LaptopAddress[],
): Proposal | undefined {
  const index = indexPlan(addressPlanOf(job, laptop))
  const network = index.network(networkId)
  if (!network) return undefined
  const [low, high] = deviceKinds[kind].block
  const taken = index.taken(network)
  let first: Ipv4 | undefined
  for (const address of freeAddresses(network.subnet, taken)) {
    first ??= address
    const host = octetsOf(address)[3]
    if (network.subnet.prefix >= 24 && host >= low && host <= high) {
      return {
        address,
        reasons: [
          'Free in the plan',
          `In the block for ${deviceKinds[kind].name.toLowerCase()}s, .${low} to .${high}`,
          'Outside DHCP and reserved ranges',
        ],
      }
    }
    if (network.subnet.prefix < 24) break
  }
  return first === undefined
    ? undefined
    : { address: first, reasons: ['Free in the plan', 'Outside DHCP and reserved ranges'] }
}
