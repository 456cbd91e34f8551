import { limits } from './limits'

/** @throws RangeError for anything but a whole number of 16 bits: nothing is wrapped silently */
export function word(value: number): number {
  if (!Number.isInteger(value) || value < 0 || value > limits.word) throw new RangeError(`Not a 16-bit word: ${value}`)
  return value
}

/** @throws RangeError for anything but a whole number of 8 bits */
export function byte(value: number): number {
  if (!Number.isInteger(value) || value < 0 || value > limits.byte) throw new RangeError(`Not a byte: ${value}`)
  return value
}

/** High and low byte of a 16-bit word. @throws RangeError for what is no such word */
export const wordBytes = (value: number): readonly [number, number] => [word(value) >>> 8, value & 255]

/** The word at a byte offset, high byte first; 0 past the end, so check lengths first. */
export const wordAt = (bytes: Uint8Array, offset: number): number =>
  ((bytes[offset] ?? 0) << 8) | (bytes[offset + 1] ?? 0)

export function wordsFrom(bytes: Uint8Array, offset: number, count: number): readonly number[] {
  return Array.from({ length: count }, (_, k) => wordAt(bytes, offset + 2 * k))
}

/** Bits packed low bit first, the rest of the last byte zero. @source V1.1b3, 6.1 */
export function packBits(bits: readonly boolean[]): readonly number[] {
  const packed = new Array<number>(Math.ceil(bits.length / 8)).fill(0)
  bits.forEach((bit, k) => {
    if (bit) packed[k >>> 3] = (packed[k >>> 3] ?? 0) | (1 << (k & 7))
  })
  return packed
}

export function unpackBits(bytes: Uint8Array, offset: number, count: number): readonly boolean[] {
  return Array.from({ length: count }, (_, k) => (((bytes[offset + (k >>> 3)] ?? 0) >>> (k & 7)) & 1) === 1)
}

/** Each byte as two digits, made once: the bytes of every question and answer are kept as text. */
const DIGITS = Array.from({ length: 256 }, (_, byte) => byte.toString(16).toUpperCase().padStart(2, '0'))

/** @example hexText(Uint8Array.of(3, 107)) // '03 6B' */
export function hexText(bytes: Uint8Array): string {
  let text = ''
  for (const byte of bytes) text += text === '' ? (DIGITS[byte] ?? '') : ` ${DIGITS[byte] ?? ''}`
  return text
}

/** @example wordText(0x7ae1) // '7AE1' */
export const wordText = (value: number): string => value.toString(16).toUpperCase().padStart(4, '0')
