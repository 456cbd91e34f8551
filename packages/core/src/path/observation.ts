import type { Instant } from '../units'

/** How a hop's value was come by. */
export type Source = 'live' | 'held' | 'typed'

/** What was seen at one hop of a value's path. */
export interface Observation {
  /** The device, controller or screen. */
  readonly at: string
  readonly words: readonly number[] | undefined
  /** The value in its unit; `undefined` while there is none. A wrong answer is never a value. */
  readonly value: number | undefined
  readonly seen: Instant | undefined
  readonly source: Source
  /** Of a value that is read live: its age in ms where it stands still; left out while it is fresh. */
  readonly staleMs?: number | undefined
  /** Why there is no value, in one sentence. */
  readonly silence: string
}
