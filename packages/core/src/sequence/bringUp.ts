import { compileJob, startState, type BringUpJob } from './model'
import {
  explainConflict,
  type Impossible,
  isImpossible,
  type ListOrder,
  listOrderOf,
  smallestConflict,
  sparedDown,
} from './explain'
import { planBringUp, type BringUpOrder } from './planBringUp'
import { isPlainlyPossible, USUAL_EFFORT, type Limits } from './search'

/** States looked at before a smaller cause of trouble is looked for. */
const FIRST_LOOK = 3_000

/** The answer to "in what order?". */
export type BringUpAnswer =
  | ({ readonly kind: 'order'; readonly listOrder: ListOrder } & BringUpOrder)
  | ({ readonly kind: 'impossible' } & Impossible)
  /** Neither an order nor a proof that there is none was found within the effort. */
  | { readonly kind: 'too-large'; readonly deviceCount: number }

/** The share of the time after which a small cause of trouble is looked for no longer. */
const CONFLICT_SHARE = 0.2

/** Computes the order of bring-up, or the smallest set of devices that makes it impossible. */
export function bringUp(job: BringUpJob, limits: Limits = { states: USUAL_EFFORT }): BringUpAnswer {
  const { states: effort } = limits
  const isLate = (share: number) => () => limits.used !== undefined && limits.used() > share
  const compiled = compileJob(job)
  if (isPlainlyPossible(compiled, startState(compiled))) {
    const order = planBringUp(job, limits)
    if (order) return { kind: 'order', ...order, listOrder: listOrderOf(compiled) }
  }
  // What a few devices cannot do, all of them cannot: seen at once, where the whole job would be searched through.
  for (const [largest, first] of [
    [2, Math.min(FIRST_LOOK, effort)],
    [4, effort],
  ] as const) {
    const few = smallestConflict(job, largest - 1, largest, isLate(CONFLICT_SHARE))
    if (few) return { kind: 'impossible', ...explainConflict(job, few) }
    const order = planBringUp(job, { ...limits, states: first })
    // Without a proof the longer look may still find something cheaper.
    if (order && (order.proven || first === effort))
      return { kind: 'order', ...order, listOrder: listOrderOf(compiled) }
  }
  const more = smallestConflict(job, 5, Math.min(job.devices.length, 8), isLate(1))
  if (more) return { kind: 'impossible', ...explainConflict(job, more) }
  if (!isLate(1)() && isImpossible(job)) return { kind: 'impossible', ...explainConflict(job, sparedDown(job)) }
  return { kind: 'too-large', deviceCount: job.devices.length }
}
