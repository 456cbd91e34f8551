import type { ValueFormat } from '../values'

/** What the value should be, said by whoever knows. */
export type Expectation =
  /** As an independent instrument shows it, give or take `allowed`, in the unit of the point. */
  | { readonly kind: 'about'; readonly value: number; readonly allowed: number }
  /** As a hop shows it, right or wrong: even a number too small to be measured may be what it makes of its words. */
  | { readonly kind: 'shown'; readonly value: number; readonly allowed: number }
  | { readonly kind: 'between'; readonly low: number; readonly high: number }
  /** It climbs (or falls, where `by` is negative) by so much in so many seconds, give or take `allowed` in that time. */
  | { readonly kind: 'rising'; readonly by: number; readonly seconds: number; readonly allowed: number }

/** The registers around the planned one, as they were at one moment. */
export interface Sample {
  /** Milliseconds; only differences count. */
  readonly at: number
  /** Words from register `Question.first` on; `undefined` where a register was not given. */
  readonly words: readonly (number | undefined)[]
  /** What the value should have been at this moment, where that is not what the question says. */
  readonly expect?: Expectation | undefined
}

/** How the plan reads the point. */
export interface PlannedRead {
  /** Address in the frame of its first register. */
  readonly address: number
  readonly format: ValueFormat
  readonly scale: number
  readonly offset: number
}

/** One point that shows a wrong number, and what is known of it. */
export interface Question {
  /** Address in the frame of the first word of every sample. */
  readonly first: number
  readonly samples: readonly Sample[]
  readonly plan: PlannedRead
  readonly expect?: Expectation | undefined
  /** Range of the quantity, where the plan knows it: percent of span and raw counts need one. */
  readonly span?: { readonly low: number; readonly high: number } | undefined
  readonly unit: string
}

/** What is expected at a sample; the sample's own goes before the question's. */
export const expectedAt = (question: Question, sample: Sample): Expectation | undefined =>
  sample.expect ?? question.expect
