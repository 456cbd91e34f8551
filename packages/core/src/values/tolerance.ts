/** How far a reading may be from its reference. */
export type Tolerance =
  | { readonly kind: 'absolute'; readonly amount: number }
  | { readonly kind: 'percent-of-reading'; readonly percent: number }
  | { readonly kind: 'percent-of-span'; readonly percent: number; readonly low: number; readonly high: number }
  | { readonly kind: 'resolution'; readonly step: number; readonly steps: number }

/** The allowed distance in the value's own unit. "Reading" is the reference: the value that is believed. */
export function allowedDifference(tolerance: Tolerance, reference: number): number {
  switch (tolerance.kind) {
    case 'absolute':
      return Math.abs(tolerance.amount)
    case 'percent-of-reading':
      return Math.abs((tolerance.percent / 100) * reference)
    case 'percent-of-span':
      return Math.abs((tolerance.percent / 100) * (tolerance.high - tolerance.low))
    case 'resolution':
      return Math.abs(tolerance.step * tolerance.steps)
  }
}

/** @example toleranceText({ kind: 'percent-of-reading', percent: 1 }, '%') // '± 1 % of the reference' */
export function toleranceText(tolerance: Tolerance, unit: string): string {
  const withUnit = (amount: number) => `± ${amount}${unit ? ` ${unit}` : ''}`
  switch (tolerance.kind) {
    case 'absolute':
      return withUnit(tolerance.amount)
    case 'percent-of-reading':
      return `± ${tolerance.percent} % of the reference`
    case 'percent-of-span':
      return `± ${tolerance.percent} % of ${tolerance.low} to ${tolerance.high}${unit ? ` ${unit}` : ''}`
    case 'resolution':
      return `± ${tolerance.steps} step${tolerance.steps === 1 ? '' : 's'} of ${tolerance.step}${unit ? ` ${unit}` : ''}`
  }
}
