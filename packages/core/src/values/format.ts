import type { RawValue } from './value'

/**
 * A number as people read it: seven significant digits at most, powers of ten beyond 10^7 or under 10^-4.
 * @example formatNumber(42.3700005) // '42.37'; formatNumber(5.8e35) // '5.8 × 10^35'
 */
export function formatNumber(value: number, decimals?: number): string {
  if (Number.isNaN(value)) return 'not a number'
  if (!Number.isFinite(value)) return value > 0 ? 'infinity' : '-infinity'
  const size = Math.abs(value)
  if (size !== 0 && (size >= 1e7 || size < 1e-4) && !(Number.isInteger(value) && size < 1e10)) {
    const [mantissa = '', exponent = ''] = value.toExponential(2).split('e')
    return `${Number(mantissa)} × 10^${Number(exponent)}`
  }
  if (decimals !== undefined) return value.toFixed(decimals)
  return String(Number(value.toPrecision(Number.isInteger(value) ? 15 : 7)))
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
