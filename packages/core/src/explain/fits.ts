import type { Expectation } from './question'

/** Below it a float is the sign of swapped words, not of a quantity: it never counts as "about 0". */
const NOTHING_MEASURED = 1e-9
/** What binary fractions may be off by. */
const SLACK = 8 * Number.EPSILON

/** A value at a moment, and what was expected then. */
export interface Seen {
  readonly at: number
  readonly value: number
  readonly expect: Expectation
}

/** The band in which a single value has to lie; `undefined` where only the change counts. */
export function bandOf(expect: Expectation): readonly [low: number, high: number] | undefined {
  if (expect.kind === 'rising') return undefined
  const [low, high] =
    expect.kind === 'between'
      ? [expect.low, expect.high]
      : [expect.value - expect.allowed, expect.value + expect.allowed]
  const slack = SLACK * Math.max(Math.abs(low), Math.abs(high))
  return [low - slack, high + slack]
}

/** Whether one value can be what was expected, as far as it alone tells. */
export const isInside = (value: number, band: readonly [number, number] | undefined, isShown: boolean): boolean =>
  Number.isFinite(value) &&
  (isShown || value === 0 || Math.abs(value) >= NOTHING_MEASURED) &&
  (band === undefined || (value >= band[0] && value <= band[1]))

/** Every step between two samples has to be as told, so that a counter that jumps back and forth does not pass. */
export function risesAsTold(seen: readonly Seen[]): boolean {
  const rising = seen.filter(({ expect }) => expect.kind === 'rising')
  if (rising.length === 0) return true
  for (let k = 1; k < rising.length; k += 1) {
    const [one, next] = [rising[k - 1], rising[k]]
    if (one?.expect.kind !== 'rising' || next?.expect.kind !== 'rising') return false
    const share = (next.at - one.at) / 1000 / next.expect.seconds
    const should = next.expect.by * share
    const allowed = next.expect.allowed * share
    const slack = SLACK * Math.max(Math.abs(one.value), Math.abs(next.value))
    if (Math.abs(next.value - one.value - should) > allowed + slack) return false
  }
  return true
}
