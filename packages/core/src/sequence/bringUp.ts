import type { BringUpJob } from './model'
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
import { USUAL_EFFORT } from './search'

/** States looked at before a smaller cause of trouble is looked for. */
const FIRST_LOOK = 3_000

/** The answer to "in what order?". */
export type BringUpAnswer =
  | ({ readonly kind: 'order'; readonly listOrder: ListOrder } & BringUpOrder)
  | ({ readonly kind: 'impossible' } & Impossible)
  /** Neither an order nor a proof that there is none was found within the effort. */
  | { readonly kind: 'too-large'; readonly deviceCount: number }

/**
 * Computes the order of bring-up, or the smallest set of devices that makes it impossible.
 * @param effort states looked at before proof is given up
 */
export function bringUp(job: BringUpJob, effort: number = USUAL_EFFORT): BringUpAnswer {
  // What a few devices cannot do, all of them cannot: seen at once, where the whole job would be searched through.
  for (const [largest, first] of [
    [2, Math.min(FIRST_LOOK, effort)],
    [4, effort],
  ] as const) {
    const few = smallestConflict(job, largest - 1, largest)
    if (few) return { kind: 'impossible', ...explainConflict(job, few) }
    const order = planBringUp(job, first)
    // Without a proof the longer look may still find something cheaper.
    if (order && (order.proven || first === effort)) return { kind: 'order', ...order, listOrder: listOrderOf(job) }
  }
  const more = smallestConflict(job, 5, Math.min(job.devices.length, 8))
  if (more) return { kind: 'impossible', ...explainConflict(job, more) }
  if (isImpossible(job)) return { kind: 'impossible', ...explainConflict(job, sparedDown(job)) }
  return { kind: 'too-large', deviceCount: job.devices.length }
}
