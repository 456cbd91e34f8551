/** What a module adds to the image, in bytes; `undefined` where its identifier bytes cannot be read to their end. */
export interface IdentifiedLengths {
  readonly inputBytes: number
  readonly outputBytes: number
}

const WORD = 0x40
/** Length of a plain identifier byte: four bits, and whether it counts words. */
const plainLength = (byte: number): number => ((byte & 0x0f) + 1) * (byte & WORD ? 2 : 1)
/** Length byte behind a special identifier: six bits, and whether it counts words. */
const longLength = (byte: number): number => ((byte & 0x3f) + 1) * (byte & WORD ? 2 : 1)

/**
 * Lengths by the identifier bytes of a module.
 *
 * Bits 4 and 5 say the direction: 01 input, 10 output, 11 both with one length. 00 is the special form: bits 6 and 7
 * say which length bytes follow (outputs first where both do), the low four bits how many bytes of the maker's come
 * after these.
 * @source IEC 61158 type 3, identifier bytes; from memory
 */
export function lengthsOf(bytes: readonly number[]): IdentifiedLengths | undefined {
  let [inputBytes, outputBytes, k] = [0, 0, 0]
  while (k < bytes.length) {
    const byte = bytes[k] ?? 0
    k += 1
    const direction = (byte >> 4) & 0b11
    if (direction !== 0) {
      const length = plainLength(byte)
      if (direction & 0b01) inputBytes += length
      if (direction & 0b10) outputBytes += length
      continue
    }
    const [hasOutputs, hasInputs] = [(byte & 0x80) !== 0, (byte & 0x40) !== 0]
    for (const side of [...(hasOutputs ? ['out'] : []), ...(hasInputs ? ['in'] : [])]) {
      const length = bytes[k]
      if (length === undefined) return undefined
      k += 1
      if (side === 'out') outputBytes += longLength(length)
      else inputBytes += longLength(length)
    }
    k += byte & 0x0f
    if (k > bytes.length) return undefined
  }
  return { inputBytes, outputBytes }
}
