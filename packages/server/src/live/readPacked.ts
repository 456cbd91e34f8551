import type { LiveReading } from '@calm/contract'
import type { Handshake, Job, Point } from '@calm/core/job'
import { limits, protocolAddress, tableOfFunction } from '@calm/core/modbus'
import { forbiddenOf, packReads, type Wanted } from '@calm/core/packing'
import { readLargest, tableOfMost } from '@calm/core/points'
import { askHop, hopPlan, readHop, seenBy, type HopPlan, type LiveContext } from './readHop'
import { wayText } from './channelOf'

/** What is read of one point, with how it was asked. */
export interface PointReading {
  readonly point: Point
  readonly plan: HopPlan
  readonly reading: Omit<LiveReading, 'sequence' | 'pointId'>
}

/** A request counts as much as fifty registers: gaps up to that are read along. */
const COST = { perRequest: 1, perRegister: 0.02 }

/** Points that travel in one request, with where each lies in its answer. */
interface Group {
  readonly first: number
  readonly count: number
  readonly members: readonly { readonly point: Point; readonly plan: ReadablePlan }[]
}
type ReadablePlan = Exclude<HopPlan, { readonly missing: string }>

const isPackable = (plan: HopPlan): plan is ReadablePlan =>
  plan.missing === undefined && (plan.request.code === 3 || plan.request.code === 4)

/**
 * Reads all points of a handshake at its device with the fewest requests. A request of several that is answered by an
 * exception is asked again point by point, and those points stay apart from then on: one of them, or a gap between
 * them, is not there. Silence counts for all that were asked together, so a silent device costs one timeout.
 *
 * @param apart requests that were refused as a whole before; kept by whoever watches
 */
export async function* readPacked(
  context: LiveContext,
  job: Job,
  handshake: Handshake,
  apart: Set<string>,
  signal: AbortSignal,
): AsyncGenerator<PointReading> {
  const { groups, single } = roundOf(job, handshake)
  for (const group of groups) {
    const key = `${group.first}+${group.count} ${group.members.map(({ point }) => point.id).join()}`
    const together = apart.has(key) ? undefined : await readGroup(context, job, group, signal)
    if (signal.aborted) return
    if (together) yield* together
    else {
      apart.add(key)
      yield* readAlone(context, job, group.members, signal)
    }
  }
  yield* readAlone(context, job, single, signal)
}

/** What one round asks: requests of several points, and points that are asked by themselves. */
interface Round {
  readonly job: Job
  readonly groups: readonly Group[]
  readonly single: readonly { readonly point: Point; readonly plan: HopPlan }[]
}

/** A round is planned once for a state of the job: the same is asked twice a second. */
const rounds = new WeakMap<Handshake, Round>()

function roundOf(job: Job, handshake: Handshake): Round {
  const known = rounds.get(handshake)
  if (known?.job === job) return known
  const planned = handshake.points.map((point) => ({ point, plan: hopPlan(job, handshake, point, 'device') }))
  const groups = groupsOf(planned, readLargest(job, handshake), handshake.unreadable)
  const grouped = new Set(groups.flatMap(({ members }) => members.map(({ point }) => point.id)))
  const round = { job, groups, single: planned.filter(({ point }) => !grouped.has(point.id)) }
  rounds.set(handshake, round)
  return round
}

async function* readAlone(
  context: LiveContext,
  job: Job,
  members: readonly { readonly point: Point; readonly plan: HopPlan }[],
  signal: AbortSignal,
): AsyncGenerator<PointReading> {
  for (const { point, plan } of members) {
    const reading = await readHop(context, job, 'device', plan, point.decimals, signal)
    if (signal.aborted) return
    yield { point, plan, reading }
  }
}

/** Requests that carry more than one point, by way and function. */
function groupsOf(
  planned: readonly { readonly point: Point; readonly plan: HopPlan }[],
  largest: number | undefined,
  unreadable: string,
): readonly Group[] {
  const packable = planned.flatMap(({ point, plan }) => (isPackable(plan) ? [{ point, plan }] : []))
  const ways = new Map<string, typeof packable>()
  for (const each of packable) {
    const key = `${wayText(each.plan.way)} ${each.plan.way.unit} ${each.plan.request.code}`
    ways.set(key, [...(ways.get(key) ?? []), each])
  }
  return [...ways.values()].flatMap((members) => {
    const byId = new Map(members.map((each) => [each.point.id, each]))
    const wanted = members.flatMap(({ point, plan }): readonly Wanted[] => {
      const table = tableOfFunction(plan.request.code)
      return table
        ? [{ id: point.id, table, address: plan.request.address, size: plan.request.count, pollMs: 1000 }]
        : []
    })
    const mostRegisters = Math.min(largest ?? limits.readRegisters, limits.readRegisters)
    const forbidden = forbiddenOf(unreadable, tableOfMost(wanted))
    const { requests } = packReads(wanted, { mostRegisters, mostBits: limits.readBits, forbidden, cost: COST })
    return requests
      .filter(({ carries }) => carries.length > 1)
      .map(({ first, count, carries }) => ({ first, count, members: carries.flatMap((id) => byId.get(id) ?? []) }))
  })
}

/** All points of a request out of its one answer; `undefined` where the device refuses it as a whole. */
async function readGroup(
  context: LiveContext,
  job: Job,
  { first, count, members }: Group,
  signal: AbortSignal,
): Promise<readonly PointReading[] | undefined> {
  const [leader] = members
  if (!leader) return []
  const whole = { ...leader.plan, request: { ...leader.plan.request, address: protocolAddress(first), count } }
  const asked = await askHop(context, job, 'device', whole, signal)
  if (!('response' in asked)) return members.map((each) => ({ ...each, reading: asked }))
  const { response } = asked
  if (response.kind !== 'words') return undefined
  return members.map(({ point, plan }) => {
    const at = plan.request.address - first
    const words = response.words.slice(at, at + plan.request.count)
    return { point, plan, reading: seenBy(asked, { ...response, words }, plan, point.decimals) }
  })
}
