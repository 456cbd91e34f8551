import { allowedDifference, type Tolerance } from './tolerance'

/** A reading held against its reference, with every number the sentence needs. */
export interface Comparison {
  readonly verdict: 'inside' | 'outside' | 'not-a-number'
  readonly difference: number
  readonly allowed: number
  readonly low: number
  readonly high: number
}

/** The edge of the band is inside, up to the rounding of binary fractions: 42.9 against 42.4 ± 0.5 is inside. */
export function compareReading(reading: number, reference: number, tolerance: Tolerance): Comparison {
  const allowed = allowedDifference(tolerance, reference)
  const difference = reading - reference
  const slack = 4 * Number.EPSILON * Math.max(Math.abs(reading), Math.abs(reference), allowed)
  const base = { difference, allowed, low: reference - allowed, high: reference + allowed }
  if (!Number.isFinite(reading) || !Number.isFinite(reference)) return { ...base, verdict: 'not-a-number' }
  return { ...base, verdict: Math.abs(difference) <= allowed + slack ? 'inside' : 'outside' }
}
