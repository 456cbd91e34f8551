import {
  blockOf,
  freeCount,
  indexPlan,
  inRange,
  ipv4FromBits,
  parseIpv4,
  rangeSize,
  type AddressRange,
  type Ipv4,
  type Plan,
  type PlannedNetwork,
} from '@calm/core/address'
import { addressPlanOf, type Job, ladderFor } from '@calm/core/job'

/** What stands at one address of the tape. */
type TickState = 'used' | 'planned' | 'twice' | 'reserved' | 'dhcp' | 'gateway' | 'free'

export interface Tick {
  readonly address: Ipv4
  readonly state: TickState
  /** Tags of the devices that are headed for it. */
  readonly tags: readonly string[]
  readonly deviceIds: readonly string[]
  /** Tags of devices that were found here and are to move away. */
  readonly foundHere: readonly string[]
}

export interface Tape {
  readonly network: PlannedNetwork
  readonly window: AddressRange
  readonly windowCount: number
  readonly windowIndex: number
  readonly ticks: readonly Tick[]
  readonly freeCount: number
  /** How many ports are planned in each window, and whether two want one address there. */
  readonly windows: readonly { readonly count: number; readonly atOdds: boolean }[]
}

/** A tape shows at most this many addresses; larger networks are shown in pieces of this size. */
const MOST = 256

/** The tape of one network, or of one piece of it. */
export function tapeOf(job: Job, networkId: string, windowIndex: number): Tape | undefined {
  const plan = addressPlanOf(job, [], ladderFor)
  const index = indexPlan(plan)
  const network = index.network(networkId)
  if (!network) return undefined
  const block = blockOf(network.subnet)
  const windowCount = Math.max(1, Math.ceil(rangeSize(block) / MOST))
  const shownIndex = Math.min(Math.max(0, windowIndex), windowCount - 1)
  const first = ipv4FromBits(block.first + shownIndex * MOST)
  const last = ipv4FromBits(Math.min(block.last, first + MOST - 1))
  const ownerOf = new Map(job.devices.flatMap((device) => device.ports.map((port) => [port.id, device] as const)))
  const found = new Map<Ipv4, string[]>()
  for (const device of job.devices) {
    const at = parseIpv4(device.asFound)
    if (!at.ok || device.ports.some((port) => port.address === device.asFound)) continue
    found.set(at.value, [...(found.get(at.value) ?? []), device.tag])
  }
  const ticks = Array.from({ length: last - first + 1 }, (_, k): Tick => {
    const address = ipv4FromBits(first + k)
    const holders = index.holders(address)
    const owners = holders.flatMap((port) => ownerOf.get(port.id) ?? [])
    const settled = owners.some((device, n) => holders[n]?.proven || device.asFound === device.ports[0]?.address)
    const state: TickState =
      holders.length > 1
        ? 'twice'
        : holders.length === 1
          ? settled
            ? 'used'
            : 'planned'
          : address === network.gateway
            ? 'gateway'
            : network.dhcp.some((range) => inRange(range, address))
              ? 'dhcp'
              : network.reserved.some((range) => inRange(range, address))
                ? 'reserved'
                : 'free'
    return {
      address,
      state,
      tags: holders.map((port) => port.tag),
      deviceIds: owners.map((device) => device.id),
      foundHere: found.get(address) ?? [],
    }
  })
  return {
    network,
    window: { first, last },
    windowCount,
    windowIndex: shownIndex,
    ticks,
    windows: windowsOf(plan.ports, block.first, windowCount),
    freeCount: freeCount(network.subnet, index.taken(network)),
  }
}

function windowsOf(ports: Plan['ports'], first: Ipv4, windowCount: number): Tape['windows'] {
  const counts = Array.from({ length: windowCount }, () => ({ count: 0, atOdds: false }))
  const seen = new Set<Ipv4>()
  for (const { address } of ports) {
    const window = address === undefined ? undefined : counts[Math.floor((address - first) / MOST)]
    if (!window || address === undefined || address < first) continue
    window.count += 1
    window.atOdds ||= seen.has(address)
    seen.add(address)
  }
  return counts
}
