import { dataTypes, isByteType, wholeRanges, type DataType } from '../values'
import type { Line } from './factors'

/** Ends of what a type holds, and how many patterns of bits there are. */
function patternsOf(type: DataType): readonly [least: number, most: number, patterns: number] | undefined {
  if (type === 'bool') return [0, 1, 2]
  const range = wholeRanges[type]
  if (!range) return undefined
  const bits = isByteType(type) ? 8 : 16 * (dataTypes[type].registers ?? 1)
  return [Number(range[0]), Number(range[1]), 2 ** bits]
}

/**
 * How many of all patterns of bits give a value inside a band: the chance that registers which mean something else
 * entirely fit as well. Registers are taken as evenly spread, which real ones are not: a rough measure, on the safe
 * side for large numbers, too small near 0.
 */
export function chanceOf(type: DataType, line: Line, [low, high]: readonly [number, number]): number {
  const ends = [(low - line.offset) / line.scale, (high - line.offset) / line.scale]
  const [from, to] = [Math.min(...ends), Math.max(...ends)]
  if (type === 'float32' || type === 'float64') return Math.max(0, floatsBetween(from, to, type))
  const whole = patternsOf(type)
  if (!whole) return 0
  const [least, most, patterns] = whole
  const count = Math.floor(Math.min(to, most)) - Math.ceil(Math.max(from, least)) + 1
  return Math.max(0, count) / patterns
}

/** Floats in order of size are patterns in order of size. @source IEEE 754-2019 3.4, 5.10 */
function floatsBetween(from: number, to: number, type: 'float32' | 'float64'): number {
  const view = new DataView(new ArrayBuffer(8))
  const place = (value: number): number => {
    if (type === 'float32') {
      view.setFloat32(0, value)
      const bits = view.getUint32(0)
      return (bits >= 0x8000_0000 ? 0x8000_0000 - bits : bits) / 2 ** 32
    }
    view.setFloat64(0, value)
    const bits = Number(view.getBigUint64(0))
    return (bits >= 2 ** 63 ? 2 ** 63 - bits : bits) / 2 ** 64
  }
  return place(to) - place(from)
}
