import { ok, refusal, type Result } from '../units'

const EXPECTED = 'a number with a decimal point, for example 42.37'

/**
 * Reads a number that a person typed. A decimal comma and digit groups are refused with the likely reading, because
 * `1,234` means two different numbers in two countries.
 *
 * @example parseDecimal('42,37') // refused, offers 42.37
 */
export function parseDecimal(text: string, name = 'The number'): Result<number> {
  const typed = text.trim().replace(/^[−–]/, '-')
  if (typed === '') return refusal('decimal.blank', `${name} is blank.`, 'nothing', EXPECTED)
  if (/^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d{1,3})?$/i.test(typed)) {
    const value = Number(typed)
    if (Number.isFinite(value)) return ok(value)
    return refusal('decimal.range', `${typed} is too large.`, typed, EXPECTED)
  }
  const grouped = /^([+-]?)(\d[\d\s.,'’  ]*)$/.exec(typed)
  if (grouped) return refuseGroups(typed, grouped[1] ?? '', grouped[2] ?? '', name)
  const withUnit = /^([+-]?(?:\d+[.,]?\d*|[.,]\d+))\s*([^\d\s.,].*)$/.exec(typed)
  if (withUnit) {
    const value = (withUnit[1] ?? '').replace(',', '.')
    return refusal('decimal.unit', `"${typed}" carries a unit; type the number alone.`, typed, EXPECTED, [
      { label: `Use ${value}`, value },
    ])
  }
  return refusal('decimal.form', `"${typed}" is not a number.`, typed, EXPECTED)
}

function refuseGroups(typed: string, sign: string, digits: string, name: string): Result<number> {
  const marks = digits.match(/[.,]/g) ?? []
  const bare = digits.replace(/[\s'’  ]/g, '')
  const offer = (value: string) => ({ label: `Use ${sign}${value}`, value: `${sign}${value}` })
  const readings: string[] = []
  if (marks.length === 0) readings.push(bare)
  else {
    const last = Math.max(bare.lastIndexOf('.'), bare.lastIndexOf(','))
    const asDecimal = `${bare.slice(0, last).replace(/[.,]/g, '')}.${bare.slice(last + 1)}`
    const repeated = marks.length > 1 && new Set(marks).size === 1
    if (!repeated) readings.push(asDecimal)
    if (repeated || (marks.length === 1 && /[.,]\d{3}$/.test(bare))) readings.push(bare.replace(/[.,]/g, ''))
  }
  const valid = readings.filter((reading) => Number.isFinite(Number(reading)) && reading !== '.')
  const what = digits.includes(',')
    ? `${name} has a comma. It could be a decimal mark or a group of thousands.`
    : `${name} has other marks than one decimal point.`
  return refusal('decimal.marks', what, typed, EXPECTED, valid.map(offer))
}
