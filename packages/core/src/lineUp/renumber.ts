import {
  formatIpv4,
  indexPlan,
  ipv4FromBits,
  parseIpv4,
  type Ipv4,
  type LaptopAddress,
  type Plan,
  type PlannedPort,
} from '../address'
import { addressPlanOf, settingOf, waitsFor, type Device, type Job, type LadderOf, type Port } from '../job'
import { outOfReach } from '../kind'
import { freeFinder, proposeFrom, type FreeFinder, type Proposal } from './propose'

/** One line of the preview: what a port has and what it gets, or why it is left alone. */
export type Renumbering =
  | {
      readonly kind: 'moves'
      readonly device: Device
      readonly port: Port
      readonly from: string | null
      readonly to: string
      readonly reasons: readonly string[]
    }
  | { readonly kind: 'stays'; readonly device: Device; readonly port: Port; readonly because: string }

/** What to give addresses to. */
export interface RenumberAsk {
  /** `missing`: only ports without a planned address. `all`: those that have one too, unless it is proven. */
  readonly what: 'missing' | 'all'
  readonly networkId: string
  /** Devices to look at; `undefined` for all of the network. */
  readonly deviceIds: ReadonlySet<string> | undefined
  /** In order from here, instead of by the blocks of the kinds. */
  readonly startAt: Ipv4 | undefined
}

/** A port that may get another address, with its device. */
interface Candidate {
  readonly device: Device
  readonly port: Port
}

/**
 * Addresses for many ports at once, as a preview. What is proven is left alone, what waits for an answer too; a port
 * that cannot be set to what would be its turn says so. No two proposals are equal, and none makes a finding.
 */
export function renumber(
  job: Job,
  laptop: readonly LaptopAddress[],
  ask: RenumberAsk,
  ladderFor?: LadderOf,
): readonly Renumbering[] {
  const plan = addressPlanOf(job, laptop, ladderFor)
  const planned = new Map(plan.ports.map((port) => [port.id, port]))
  const candidates = job.devices.flatMap((device) =>
    device.ports
      .filter((port) => port.networkId === ask.networkId && (ask.deviceIds?.has(device.id) ?? true))
      .map((port): Candidate => ({ device, port })),
  )
  const keeps = new Map<string, string>()
  for (const { device, port } of candidates) {
    const because = whyStays(job, device, port, planned.get(port.id), ask)
    if (because !== undefined) keeps.set(port.id, because)
  }
  // One that turns out to stay keeps its address, which others may have been given: then all is shared out again.
  for (;;) {
    const { preview, stayed } = shareOut(job, plan, candidates, keeps, ask)
    if (stayed.size === 0) return preview
    for (const [id, because] of stayed) keeps.set(id, because)
  }
}

function shareOut(
  job: Job,
  plan: Plan,
  candidates: readonly Candidate[],
  keeps: ReadonlyMap<string, string>,
  ask: RenumberAsk,
): { readonly preview: readonly Renumbering[]; readonly stayed: ReadonlyMap<string, string> } {
  const moving = new Set(candidates.map(({ port }) => port.id).filter((id) => !keeps.has(id)))
  // Those that move give their address free first, so that a block can be closed up.
  const index = indexPlan(without(plan, moving))
  const network = index.network(ask.networkId)
  const free = network && freeFinder(index, network)
  const stayed = new Map<string, string>()
  const preview = candidates.map(({ device, port }): Renumbering => {
    const stays = (because: string): Renumbering => ({ kind: 'stays', device, port, because })
    const known = keeps.get(port.id)
    if (known !== undefined) return stays(known)
    const staysAfterAll = (because: string): Renumbering => {
      stayed.set(port.id, because)
      return stays(because)
    }
    if (!network || !free) return staysAfterAll('There is no such network.')
    const found = ask.startAt === undefined ? proposeFrom(free, network, job, device.kind) : nextFrom(free, ask.startAt)
    if (!found) return staysAfterAll('Every address of the network is taken.')
    const present = parseIpv4(device.asFound)
    const reach = outOfReach(settingOf(job, device).way, present.ok ? present.value : undefined, found.address)
    if (reach !== undefined) return staysAfterAll(reach)
    const to = formatIpv4(found.address)
    return to === port.address
      ? stays('It has that address already.')
      : { kind: 'moves', device, port, from: port.address, to, reasons: found.reasons }
  })
  return { preview, stayed }
}

function whyStays(
  job: Job,
  device: Device,
  port: Port,
  planned: PlannedPort | undefined,
  ask: RenumberAsk,
): string | undefined {
  if (planned?.proven) return 'Proven at its address.'
  if (ask.what === 'missing' && port.address !== null) return 'It has an address.'
  const [waiting] = waitsFor(job, device.id)
  return waiting ? `It waits for: ${waiting.what}.` : undefined
}

const without = (plan: Plan, ids: ReadonlySet<string>): Plan => ({
  ...plan,
  ports: plan.ports.map((port) => (ids.has(port.id) ? { ...port, address: undefined } : port)),
})

function nextFrom(free: FreeFinder, from: Ipv4): Proposal | undefined {
  const address = free.take({ first: from, last: ipv4FromBits(0xffff_ffff) })
  return address === undefined
    ? undefined
    : { address, reasons: ['The next free one in the row', 'Outside DHCP and reserved ranges'] }
}
