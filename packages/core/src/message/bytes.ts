import { ok, refusal, type Result } from '../units'

const EXPECTED = 'pairs of hexadecimal digits, for example 3A 30 31 0D'

/**
 * Bytes written as hexadecimal digits, with blanks, commas or nothing between them.
 * @example readHex('3A 30 0D') // [0x3a, 0x30, 0x0d]
 */
export function readHex(text: string): Result<readonly number[]> {
  const digits = text.replace(/0x/gi, '').replace(/[\s,;:-]/g, '')
  const foreign = /[^0-9a-f]/i.exec(digits)
  if (foreign)
    return refusal('hex.digit', `"${foreign[0]}" is no hexadecimal digit; they go from 0 to F.`, text, EXPECTED)
  if (digits === '') return refusal('hex.blank', 'No bytes are given.', 'nothing', EXPECTED)
  if (digits.length % 2 === 1)
    return refusal(
      'hex.half',
      `${digits.length} digits do not make whole bytes: one is missing or too many.`,
      text,
      EXPECTED,
    )
  return ok(Array.from({ length: digits.length / 2 }, (_, k) => parseInt(digits.slice(2 * k, 2 * k + 2), 16)))
}

export const hexText = (bytes: readonly number[]): string =>
  bytes.map((byte) => byte.toString(16).toUpperCase().padStart(2, '0')).join(' ')

/** Bytes as characters; what cannot be printed stands as its number in angle brackets. */
export const printed = (bytes: readonly number[]): string =>
  bytes
    .map((byte) =>
      byte >= 0x20 && byte <= 0x7e
        ? String.fromCharCode(byte)
        : `<${byte.toString(16).toUpperCase().padStart(2, '0')}>`,
    )
    .join('')

/** Where the byte goes that makes an odd count even. */
export type PadAt = 'end' | 'start'

export interface PackedWords {
  readonly words: readonly number[]
  /** The same, as a programme with signed words shows them. */
  readonly signed: readonly number[]
  readonly bytes: number
  readonly isPadded: boolean
}

/**
 * Bytes in words, high byte first. An odd count is filled with a byte 00 at the end that is said; the length stays that
 * of the bytes.
 */
export function wordsOfBytes(bytes: readonly number[], padAt: PadAt): PackedWords {
  const isPadded = bytes.length % 2 === 1
  const even = isPadded ? (padAt === 'end' ? [...bytes, 0] : [0, ...bytes]) : bytes
  const words = Array.from({ length: even.length / 2 }, (_, k) => ((even[2 * k] ?? 0) << 8) | (even[2 * k + 1] ?? 0))
  return { words, signed: words.map(signedWord), bytes: bytes.length, isPadded }
}

/** @example signedWord(0xc350) // -15536 */
export const signedWord = (word: number): number => (word >= 0x8000 ? word - 0x1_0000 : word)

export interface WordEntry {
  readonly word: number
  /** How it was meant: `-15536 is C350, 50000 without a sign`. */
  readonly meant: string
}

/** A word as people enter it: with a sign, without one, or as `0xC350` or `16#C350`. What does not fit is refused. */
export function readWord(text: string): Result<WordEntry> {
  const typed = text.trim()
  const hex = /^(?:0x|16#)([0-9a-f]{1,4})$/i.exec(typed)
  const value = hex ? parseInt(hex[1] ?? '', 16) : /^[+-]?\d+$/.test(typed) ? Number(typed) : undefined
  const expected = 'a word from -32768 to 65535, or 0x0000 to 0xFFFF'
  if (value === undefined) return refusal('word.form', `"${typed}" is no word.`, typed, expected)
  if (value < -0x8000 || value > 0xffff) return refusal('word.range', `${value} does not fit 16 bits.`, typed, expected)
  const word = value & 0xffff
  const digits = word.toString(16).toUpperCase().padStart(4, '0')
  const other = word >= 0x8000 ? `, ${signedWord(word)} with a sign, ${word} without one` : ''
  return ok({ word, meant: `${typed} is ${digits}${other}` })
}
