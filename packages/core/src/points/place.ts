import { devicePlansOf, type Handshake, type Job, type Point } from '../job'
import { tableOfFunction, tables, type Table } from '../modbus'
import { neededFor, type PlanGaps, type ReadPlan } from '../terms'
import type { Result } from '../units'
import { registersOf } from '../values'

/** Where the device keeps a point, as it is read. */
export interface PointPlace {
  readonly table: Table
  /** Address in the frame. */
  readonly address: number
  /** Registers, or bits in a table of bits. */
  readonly size: number
  readonly plan: ReadPlan
}

/** The place of a point by its own row or by the terms, or why there is none. */
export type PlaceOrMissing = PointPlace | { readonly missing: string }

/** Places of all points of a handshake, in their order. */
export const placesOf = (job: Job, handshake: Handshake): readonly PlaceOrMissing[] =>
  handshake.points.map(placer(job, handshake))

/** Places that were found, as long as what all points share stays as it is: an edit moves one of thousands. */
const found = new WeakMap<
  Handshake['terms'],
  { readonly on: readonly unknown[]; readonly places: WeakMap<Point, PlaceOrMissing> }
>()

function placesFound(job: Job, { terms, exchange, controllerId, deviceId }: Handshake): WeakMap<Point, PlaceOrMissing> {
  const on = [exchange, controllerId, deviceId, job.devices, job.networks, job.lines, job.kinds]
  const before = found.get(terms)
  if (before && before.on.every((each, k) => each === on[k])) return before.places
  const places = new WeakMap<Point, PlaceOrMissing>()
  found.set(terms, { on, places })
  return places
}

/** A function for the places of a handshake's points: what all of them share is read once. */
export function placer(job: Job, handshake: Handshake): (point: Point) => PlaceOrMissing {
  const planOf = devicePlansOf(job, handshake)
  const places = placesFound(job, handshake)
  return (point) => {
    const known = places.get(point)
    if (known) return known
    const place = placeBy(planOf(point))
    places.set(point, place)
    return place
  }
}

/** The place of one point. */
export const placeOf = (job: Job, handshake: Handshake, point: Point): PlaceOrMissing => placer(job, handshake)(point)

function placeBy(plan: Result<ReadPlan, PlanGaps>): PlaceOrMissing {
  if (!plan.ok) return { missing: plan.refusal.gaps.map(({ what }) => what).join(' ') }
  const { request, format } = plan.value
  const table = tableOfFunction(request.code)
  if (!table) return { missing: `Function ${request.code} reads no table.` }
  const size = tables[table].bits === 1 ? (neededFor(format.type, true) ?? 1) : registersOf(format)
  return { table, address: request.address, size, plan: plan.value }
}
