import type { ValueFormat } from '../../values'

/** Where the words of a point stand at a hop, and what was seen around them. All hops are sampled at the same moments. */
export interface WordHop {
  readonly kind: 'words'
  readonly name: string
  /** Address of the first word of every sample, and of the point's own first word. */
  readonly first: number
  readonly at: number
  /** Words of each sample; `undefined` where it, or one word of it, was not seen then. */
  readonly samples: readonly (readonly (number | undefined)[] | undefined)[]
}

/** A hop that shows a number: a tag, a screen. */
export interface ValueHop {
  readonly kind: 'value'
  readonly name: string
  readonly samples: readonly (number | undefined)[]
  /** How far a shown number may be from the exact one: half of its last digit. */
  readonly allowed: number
  /** Whether it is known to be held by hand. */
  readonly isForced?: boolean | undefined
}

export type PathHop = WordHop | ValueHop

/** Words of something else that may have come instead: another unit, another block of the same memory. */
export interface OtherWords {
  readonly name: string
  readonly samples: readonly (readonly number[] | undefined)[]
}

/** A point on its way. The first hop is the device's own registers. */
export interface PathSeen {
  readonly hops: readonly PathHop[]
  /** How the device keeps it, and what its number means. */
  readonly format: ValueFormat
  readonly registers: number
  readonly scale: number
  readonly offset: number
  /** Range and unit of the quantity, where they are known. */
  readonly span?: { readonly low: number; readonly high: number } | undefined
  readonly unit: string
  readonly others: readonly OtherWords[]
}
