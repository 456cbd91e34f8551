import {
  freeAddresses,
  indexPlan,
  ipv4FromBits,
  type AddressRange,
  type Ipv4,
  type LaptopAddress,
  type PlannedNetwork,
  type PlanIndex,
} from '../address'
import { addressPlanOf, type Job, type LadderOf } from '../job'
import { kindFacts } from '../kind'

/** A free address with the reasons that make it one. */
export interface Proposal {
  readonly address: Ipv4
  readonly reasons: readonly string[]
}

/** The block of last octets for a kind: the job's own rule, else what is usual for the kind. */
export function blockFor(job: Job, kind: string): readonly [number, number] {
  const own = job.addressRules.find((rule) => rule.kind === kind)
  return own ? [own.first, own.last] : kindFacts(kind, job.kinds).block
}

/** The part of a network that a block names; in a network larger than a /24, of its first 256 addresses. */
function blockRange(network: PlannedNetwork, [low, high]: readonly [number, number]): AddressRange {
  const start = network.subnet.base - (network.subnet.base % 256)
  return { first: ipv4FromBits(start + low), last: ipv4FromBits(start + high) }
}

/**
 * A free address for a device of a kind: from the block of the job for it, else the first free one of the network.
 * @returns `undefined` when every address of the network is taken, or there is no such network
 */
export function proposeAddress(
  job: Job,
  networkId: string,
  kind: string,
  laptop: readonly LaptopAddress[],
  ladderFor?: LadderOf,
): Proposal | undefined {
  const index = indexPlan(addressPlanOf(job, laptop, ladderFor))
  const network = index.network(networkId)
  return network && proposeFrom(freeFinder(index, network), network, job, kind)
}

/** Gives out free addresses of a network, each once. */
export interface FreeFinder {
  /** The lowest free one, within a range where one is given. */
  readonly take: (within?: AddressRange) => Ipv4 | undefined
}

/** Each range is walked once, however many addresses are taken from it. */
export function freeFinder(index: PlanIndex, network: PlannedNetwork): FreeFinder {
  const given = new Set<Ipv4>()
  const walks = new Map<string, Generator<Ipv4>>()
  return {
    take: (within) => {
      const key = within ? `${within.first}-${within.last}` : ''
      const walk = walks.get(key) ?? freeAddresses(network.subnet, index.taken(network), within)
      walks.set(key, walk)
      for (let step = walk.next(); !step.done; step = walk.next()) {
        if (given.has(step.value)) continue
        given.add(step.value)
        return step.value
      }
      return undefined
    },
  }
}

/** The next free address for a kind: from its block, else anywhere in the network. */
export function proposeFrom(free: FreeFinder, network: PlannedNetwork, job: Job, kind: string): Proposal | undefined {
  const block = blockFor(job, kind)
  const blockText = `.${block[0]} to .${block[1]}`
  const inBlock = free.take(blockRange(network, block))
  if (inBlock !== undefined) {
    const name = kindFacts(kind, job.kinds).name
    return {
      address: inBlock,
      reasons: ['Free in the plan', `In the block for ${name}, ${blockText}`, 'Outside DHCP and reserved ranges'],
    }
  }
  const anywhere = free.take()
  return anywhere === undefined
    ? undefined
    : {
        address: anywhere,
        reasons: ['Free in the plan', 'Outside DHCP and reserved ranges', `No free one in the block ${blockText}`],
      }
}
