import type { RawValue } from './value'

/** From the raw number to the value with its unit: `raw × scale + offset`. */
export interface Scaling {
  readonly scale: number
  readonly offset: number
  readonly unit: string
}

export const unscaled: Scaling = { scale: 1, offset: 0, unit: '' }

/**
 * The number that a raw value means, or `undefined` where it is no number. Decimal scales are applied exactly: 1234 at
 * 0.1 is 123.4, not 123.40000000000001.
 */
export function scaled(raw: RawValue, { scale, offset }: Pick<Scaling, 'scale' | 'offset'>): number | undefined {
  if (raw.kind !== 'number' && raw.kind !== 'whole') return undefined
  const value = Number(raw.value)
  if (scale === 1 && offset === 0) return value
  const result = value * scale + offset
  return Number.isFinite(result) && Number.isInteger(value) ? Number(result.toPrecision(15)) : result
}
