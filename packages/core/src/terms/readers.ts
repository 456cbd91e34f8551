import { ok, refusal, type Offer, type Result } from '../units'

const bare = (text: string) =>
  text
    .trim()
    .toLowerCase()
    .replace(/[\s_-]+/g, '')

/** Reads one of several words: by its id, by what it is called, or by another name of it. */
export function readChoice<K extends string>(
  text: string,
  words: Readonly<Record<K, string>>,
  also: Readonly<Record<string, K>> = {},
): Result<K> {
  const typed = bare(text)
  const ids = Object.keys(words) as K[]
  const found =
    ids.find((id) => bare(id) === typed || bare(words[id]) === typed) ??
    Object.entries(also).find(([name]) => bare(name) === typed)?.[1]
  if (found) return ok(found)
  const expected = ids.map((id) => words[id]).join(', ')
  return refusal('term.choice', `"${text.trim()}" is none of the choices.`, text.trim(), expected)
}

/** A quantity as it is asked for: its unit, other units that are taken, and the range. */
export interface QuantityField {
  readonly name: string
  /** The unit of the result, and that of a bare number. */
  readonly unit: string
  /** Other units by what one of them is worth. */
  readonly units?: Readonly<Record<string, number>>
  readonly least: number
  readonly most: number
  readonly whole?: boolean
  /** Why the range ends where it does, as a sentence. */
  readonly reason?: string
}

/** A number with an optional unit behind it; a comma counts as a point. */
const QUANTITY = /^(-?\d+(?:[.,]\d+)?)\s*([a-zA-Z/%µ]*)$/

/** Reads a quantity. @example readQuantity('0.5 s', { unit: 'ms', units: { s: 1000 }, … }) // 500 */
export function readQuantity(text: string, field: QuantityField): Result<number> {
  const { name, unit, units = {}, least, most } = field
  const typed = text.trim()
  const expected = `a number from ${least} to ${most}${unit === '' ? '' : ` ${unit}`}`
  const found = QUANTITY.exec(typed)
  if (!found) return refusal('term.quantity', `${name} "${typed}" is no number.`, typed, expected)
  const [, digits = '', given = ''] = found
  const factor = given === '' || given.toLowerCase() === unit.toLowerCase() ? 1 : units[given.toLowerCase()]
  if (factor === undefined)
    return refusal(
      'term.unit',
      `"${given}" is no unit of ${name.toLowerCase()}.`,
      typed,
      [unit, ...Object.keys(units)].join(', '),
    )
  const value = Number(digits.replace(',', '.')) * factor
  if (field.whole && !Number.isInteger(value)) {
    const near: readonly Offer[] = [{ label: `Use ${Math.round(value)}`, value: String(Math.round(value)) }]
    return refusal('term.not-whole', `${name} must be a whole number.`, typed, expected, near)
  }
  if (value < least || value > most) {
    const reason = field.reason ? ` ${field.reason}` : ''
    return refusal(
      'term.range',
      `${name} ${typed} is outside ${least} to ${most}${unit && ` ${unit}`}.${reason}`,
      typed,
      expected,
    )
  }
  return ok(value)
}

/** @example quantityText(1500, 'ms') // '1500 ms' */
export const quantityText = (value: number, unit: string): string =>
  `${Number(value.toFixed(4))}${unit === '' ? '' : ` ${unit}`}`

/** A stretch of values, both ends included. */
export interface Stretch {
  readonly least: number
  readonly most: number
}

/** Reads `10 to 750 ms`, `10..750`, or a single value. */
export function readStretch(text: string, field: QuantityField): Result<Stretch> {
  const [first = '', second, ...more] = text.split(/\s*(?:\.\.\.?|–|\bto\b)\s*/)
  if (more.length > 0)
    return refusal(
      'term.stretch',
      `"${text.trim()}" has more than two ends.`,
      text,
      `for example 10 to 750 ${field.unit}`,
    )
  const low = readQuantity(first, field)
  if (!low.ok) return low
  if (second === undefined) return ok({ least: low.value, most: low.value })
  const high = readQuantity(second, field)
  if (!high.ok) return high
  if (high.value < low.value) {
    const turned = `${quantityText(high.value, '')} to ${quantityText(low.value, field.unit)}`
    return refusal('term.reversed', `${text.trim()} runs backwards.`, text, 'the lower end first', [
      { label: `Use ${turned}`, value: turned },
    ])
  }
  return ok({ least: low.value, most: high.value })
}

/** Reads text that is kept letter for letter. */
export function readText(text: string, name: string): Result<string> {
  const typed = text.trim()
  return typed === '' ? refusal('term.blank', `${name} is blank.`, 'nothing', 'letters or digits') : ok(typed)
}

/** Reads a word of 16 bits: `0x8000`, `8000h`, or decimal. */
export function readWord(text: string, name: string): Result<number> {
  const typed = text.trim().replace(/[\s_]/g, '')
  const hex = /^(?:0x([0-9a-f]{1,4})|([0-9a-f]{1,4})h)$/i.exec(typed)
  const value = hex ? parseInt(hex[1] ?? hex[2] ?? '', 16) : /^\d{1,5}$/.test(typed) ? Number(typed) : NaN
  return value <= 0xffff
    ? ok(value)
    : refusal(
        'term.word',
        `${name} "${text.trim()}" is no word of 16 bits.`,
        text.trim(),
        '0x0000 to 0xFFFF, or 0 to 65535',
      )
}

/** Reads bytes of a frame: hexadecimal pairs, or names of control characters such as `CR LF`. */
export function readBytes(text: string, name: string): Result<readonly number[]> {
  const typed = text.trim()
  if (/^none$/i.test(typed)) return ok([])
  const named: Readonly<Record<string, number>> = {
    stx: 2,
    etx: 3,
    eot: 4,
    enq: 5,
    ack: 6,
    lf: 10,
    cr: 13,
    nak: 21,
    esc: 27,
  }
  const bytes = typed.split(/[\s,]+/).map((part) => {
    const known = named[part.toLowerCase().replace(/^<|>$/g, '')]
    return known ?? (/^(0x)?[0-9a-f]{2}$/i.test(part) ? parseInt(part.replace(/^0x/i, ''), 16) : NaN)
  })
  const odd = bytes.findIndex(Number.isNaN)
  if (odd < 0) return ok(bytes)
  const part = typed.split(/[\s,]+/)[odd] ?? ''
  return refusal(
    'term.bytes',
    `${name}: "${part}" is no byte.`,
    typed,
    'pairs such as 02 0D, names such as STX CR, or none',
  )
}
