import type { Explanation } from '../../explain'

/** What goes wrong at a hop. */
export type FaultKind =
  'shift' | 'order' | 'other' | 'truncated' | 'overwritten' | 'stale' | 'zero' | 'cleared' | 'type' | 'scale' | 'forced'

/** One fault, in words. */
export interface Fault {
  readonly kind: FaultKind
  readonly say: string
}

/** Faults of one hop that together make of the hop before what was seen; one or two. */
export interface HopExplanation {
  readonly faults: readonly Fault[]
  /** How much of it is met seldom. */
  readonly uncommon: number
  /** How the hop takes the words before it, where that is what differs. */
  readonly reading?: Pick<Explanation, 'shift' | 'format' | 'line'> | undefined
}
