/**
 * The order in which a value's bytes travel, named by where the bytes A (highest) to D (lowest) of a 32-bit value
 * stand. For 16 bits only the swap inside the word counts; for 64 bits the words are reversed as a whole, or inside
 * each half.
 */
export type ByteOrder = 'ABCD' | 'CDAB' | 'BADC' | 'DCBA' | 'CDAB-halves' | 'DCBA-halves'

export interface ByteOrderFacts {
  /** Short words for the clasp. */
  readonly name: string
  readonly bytesSwapped: boolean
  /** `none`: highest word first; `all`: lowest word first; `halves`: lowest word first inside each 32-bit half. */
  readonly wordsReversed: 'none' | 'all' | 'halves'
}

/** @source common practice, no source: the standard fixes only the byte order inside a register (V1.1b3, 4.2) */
export const byteOrders: Readonly<Record<ByteOrder, ByteOrderFacts>> = {
  ABCD: { name: 'high word first', bytesSwapped: false, wordsReversed: 'none' },
  CDAB: { name: 'low word first', bytesSwapped: false, wordsReversed: 'all' },
  BADC: { name: 'high word first, bytes swapped', bytesSwapped: true, wordsReversed: 'none' },
  DCBA: { name: 'low word first, bytes swapped', bytesSwapped: true, wordsReversed: 'all' },
  'CDAB-halves': { name: 'low word first in each half', bytesSwapped: false, wordsReversed: 'halves' },
  'DCBA-halves': { name: 'low word first in each half, bytes swapped', bytesSwapped: true, wordsReversed: 'halves' },
}

/** Puts words as they travelled into the order high to low. The same function puts them back. */
export function reorder(words: readonly number[], order: ByteOrder): readonly number[] {
  const { bytesSwapped, wordsReversed } = byteOrders[order]
  const turned = bytesSwapped ? words.map((word) => ((word & 255) << 8) | (word >>> 8)) : words
  if (wordsReversed === 'all' || (wordsReversed === 'halves' && turned.length <= 2)) return [...turned].reverse()
  if (wordsReversed === 'none') return turned
  const half = turned.length / 2
  return [...turned.slice(0, half).reverse(), ...turned.slice(half).reverse()]
}
