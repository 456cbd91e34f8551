import { ok, refusal, type Result } from './result'

/** What a whole number is called and the range it must lie in. */
export interface WholeNumberField {
  /** As it stands in a sentence: `Unit id`. */
  readonly name: string
  readonly min: number
  readonly max: number
  /** Why the range ends where it does, as a sentence. */
  readonly reason?: string
}

/**
 * Reads a whole number in decimal. Spaces around it are taken off; signs, decimals, exponents and leading zeros
 * are refused with the likely reading.
 *
 * @example parseWholeNumber('248', { name: 'Unit id', min: 1, max: 247 }) // refused: 248 is above 247
 */
export function parseWholeNumber(text: string, field: WholeNumberField): Result<number> {
  const typed = text.trim()
  const expected = `a whole number from ${field.min} to ${field.max}`
  const code = `number.${field.name.toLowerCase().replace(/\s+/g, '-')}`
  if (typed === '') return refusal(`${code}.blank`, `${field.name} is blank.`, 'nothing', expected)
  if (!/^\d+$/.test(typed)) {
    return refusal(`${code}.not-whole`, `${field.name} must be ${expected}.`, typed, expected)
  }
  const value = Number(typed)
  if (value < field.min || value > field.max) {
    const reason = field.reason ? ` ${field.reason}` : ''
    return refusal(
      `${code}.range`,
      `${field.name} ${typed} is outside ${field.min} to ${field.max}.${reason}`,
      typed,
      expected,
    )
  }
  if (typed.length > 1 && typed.startsWith('0')) {
    return refusal(
      `${code}.leading-zero`,
      `${field.name} ${typed} begins with a zero; some programs would read it as octal.`,
      typed,
      expected,
      [{ label: `Use ${value}`, value: String(value) }],
    )
  }
  return ok(value)
}
