import type { RawValue } from './value'

/** Whole numbers are written out up to here; beyond it a binary fraction does not hold every one of them. */
const WHOLE_LIMIT = 1e15
/** Numbers with a fraction are written out up to here without a stated number of decimals. */
const FRACTION_LIMIT = 1e10
/** Under it a number is no measured value any more, but the sign of swapped words: it is never shown as 0. */
const NOTHING_MEASURED = 1e-9

/**
 * A number as people read it. With `decimals` exactly so many are kept. Without, seven significant digits are shown
 * (ten above 10^7). Powers of ten only where nothing else says it: far beyond what is measured, or under 10^-4 (with
 * `decimals` under 10^-9).
 * @example formatNumber(42.3700005) // '42.37'; formatNumber(12345678.9, 1) // '12345678.9'; formatNumber(5.8e35) // '5.8 × 10^35'
 */
export function formatNumber(value: number, decimals?: number): string {
  if (Number.isNaN(value)) return 'not a number'
  if (!Number.isFinite(value)) return value > 0 ? 'infinity' : '-infinity'
  const size = Math.abs(value)
  if (decimals !== undefined) {
    if (size >= WHOLE_LIMIT || (size !== 0 && size < NOTHING_MEASURED)) return powerOfTen(value)
    const text = value.toFixed(decimals)
    return Number(text) === 0 ? text.replace('-', '') : text
  }
  if (Number.isInteger(value)) return size < WHOLE_LIMIT ? String(value) : powerOfTen(value)
  if (size >= FRACTION_LIMIT || size < 1e-4) return powerOfTen(value)
  return String(Number(value.toPrecision(size >= 1e7 ? 10 : 7)))
}

function powerOfTen(value: number): string {
  const [mantissa = '', exponent = ''] = value.toExponential(2).split('e')
  return `${Number(mantissa)} × 10^${Number(exponent)}`
}

/** @example formatRaw({ kind: 'bool', value: true }) // 'on' */
export function formatRaw(raw: RawValue, decimals?: number): string {
  switch (raw.kind) {
    case 'number':
      return formatNumber(raw.value, decimals)
    case 'whole':
      return raw.value.toString()
    case 'bool':
      return raw.value ? 'on' : 'off'
    case 'bits':
      return raw.value
        .map((on) => (on ? '1' : '0'))
        .reverse()
        .join('')
        .replace(/(.{4})(?=.)/g, '$1 ')
    case 'text':
      return `"${raw.value}"`
  }
}
