import type { Job } from '@calm/core/job'
import { bringUpJobOf, walkOf, type LaptopState, type Stop, type WalkRecord, type WalkStep } from '@calm/core/procedure'
import { parseIpv4, prefixLength } from '@calm/core/address'
import type { HostAddress } from '@calm/core/sequence'
import { notFound, readWalk, type StepPlace, type Store, type Tx } from '../store'

/** Subnets the laptop is in, loopback left out. */
export function laptopSubnets(laptop: LaptopState): readonly HostAddress[] {
  return laptop.interfaces.flatMap((adapter) => {
    const read = parseIpv4(adapter.address)
    if (!read.ok || adapter.loopback || adapter.link === false) return []
    return [{ address: read.value, prefix: prefixLength(adapter.prefix) }]
  })
}

/** The walk of a job as it is saved. */
interface WalkNow {
  readonly record: WalkRecord
  readonly stops: readonly Stop[]
}

/** Walks that were computed, by what they are computed from: once for each change, however many steps are looked at. */
const computed = new WeakMap<WalkRecord, { readonly job: Job; readonly walk: WalkNow }>()

/** The walk of a job, made once for each state of both. */
export function walkOfJob(job: Job, record: WalkRecord): WalkNow {
  const known = computed.get(record)
  if (known?.job === job) return known.walk
  const walk = { record, stops: walkOf(job, record, record.order, bringUpJobOf(job, record, [])) }
  computed.set(record, { job, walk })
  return walk
}

/** The walk as it stands after the last write. */
export const walkNow = async (store: Store, job: Job): Promise<WalkNow> => walkOfJob(job, await store.walks.get(job.id))

/** The walk as it stands within a write. */
export const walkWithin = async (tx: Tx, jobId: string): Promise<WalkNow> =>
  walkOfJob(await tx.job(jobId), await readWalk(tx.manager, jobId))

export type PlaceOnWalk = StepPlace & { readonly record: WalkRecord }

/** Where a step is on a walk. @throws Refused 404 */
export function placeOn(jobId: string, { record, stops }: WalkNow, stepKey: string): PlaceOnWalk {
  const found = findStep(stops, stepKey)
  if (!found) throw notFound('step', stepKey)
  return { jobId, record, ...found }
}

export function findStep(
  stops: readonly Stop[],
  stepKey: string,
): { readonly stop: Stop; readonly step: WalkStep } | undefined {
  for (const stop of stops) {
    const step = stop.steps.find((each) => each.key === stepKey)
    if (step) return { stop, step }
  }
  return undefined
}
