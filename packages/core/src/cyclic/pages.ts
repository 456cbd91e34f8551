/** Where one transfer carries less than the image: pages, one after the other. */
export interface Pages {
  readonly pages: number
  readonly perSecond: number
  /** Time until every page was there once, in ms: at least so old is the last one. */
  readonly roundMs: number
  /** Words that one transfer takes on the wire, with its status or control words. */
  readonly transferWords: number
}

/**
 * @param words of data in the whole image, or in the file
 * @param blockWords of data in one transfer
 * @param extraWords of status or control beside the data
 * @param everyMs from one transfer to the next
 * @example pagesOf(600, 60, 0, 20) // 10 pages, 200 ms at least
 */
export function pagesOf(words: number, blockWords: number, extraWords: number, everyMs: number): Pages | undefined {
  if (!(words > 0) || !(blockWords > 0) || !(everyMs > 0)) return undefined
  const pages = Math.ceil(words / blockWords)
  return { pages, perSecond: 1000 / everyMs, roundMs: pages * everyMs, transferWords: blockWords + extraWords }
}

/** One side of a copy of many words. */
export interface CopySide {
  readonly elementBits: number
  readonly length: number
}

/** What does not go together in a copy: element types that differ shift everything, lengths that differ cut or overrun. */
export function copyTrouble(from: CopySide, to: CopySide): string | undefined {
  if (from.elementBits !== to.elementBits)
    return `Elements of ${from.elementBits} bits are copied to elements of ${to.elementBits}: every value after the first lies elsewhere.`
  if (from.length > to.length)
    return `${from.length} elements are copied into ${to.length}: ${from.length - to.length} are lost or overwrite what follows.`
  if (from.length < to.length)
    return `${from.length} elements are copied into ${to.length}: the last ${to.length - from.length} keep what stood there.`
  return undefined
}
