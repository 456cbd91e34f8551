import { ok, refusal, type Result } from '../units'
import { parseDecimal } from '../values'

const readScale = (text: string): Result<number> => {
  const read = parseDecimal(text, 'The scale')
  if (!read.ok || read.value !== 0) return read
  return refusal('scale.zero', 'A scale of 0 makes 0 of every value.', text, 'any other number, for example 0.1')
}

/** Two points of a straight line: `0 to 27648 = 0 to 100`, raw numbers first. */
const TWO_POINTS = /^(\S+)\s*(?:to|\.\.)\s*(\S+)\s*(?:=|->|→)\s*(\S+)\s*(?:to|\.\.)\s*(\S+)$/i

/**
 * A factor, or the two points that make one with its offset: raw numbers and what they mean.
 * @example readScaling('4000 to 20000 = 0 to 100') // scale 0.00625, offset -25
 */
export function readScaling(text: string): Result<{ readonly scale: number; readonly offset?: number }> {
  const points = TWO_POINTS.exec(text.trim())?.slice(1)
  if (!points) {
    const scale = readScale(text)
    return scale.ok ? ok({ scale: scale.value }) : scale
  }
  const numbers: number[] = []
  for (const point of points) {
    const read = parseDecimal(point, 'A point of the scale')
    if (!read.ok) return read
    numbers.push(read.value)
  }
  const [rawLow = 0, rawHigh = 0, low = 0, high = 0] = numbers
  if (rawLow === rawHigh || low === high)
    return refusal(
      'scale.points',
      `${text.trim()} is no line: ${rawLow === rawHigh ? 'the two raw numbers' : 'the two values'} are the same.`,
      text,
      'two different points, for example 0 to 27648 = 0 to 100',
    )
  const exact = (value: number) => Number(value.toPrecision(12))
  const scale = (high - low) / (rawHigh - rawLow)
  return ok({ scale: exact(scale), offset: exact(low - rawLow * scale) })
}
