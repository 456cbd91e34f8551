import type { DataType } from '../values'
import type { Line } from './factors'

const wholeTypes: Readonly<Partial<Record<DataType, readonly [least: number, most: number, patterns: number]>>> = {
  bool: [0, 1, 2],
  uint16: [0, 0xffff, 2 ** 16],
  int16: [-0x8000, 0x7fff, 2 ** 16],
  uint32: [0, 0xffff_ffff, 2 ** 32],
  int32: [-0x8000_0000, 0x7fff_ffff, 2 ** 32],
  uint64: [0, 2 ** 64, 2 ** 64],
  int64: [-(2 ** 63), 2 ** 63, 2 ** 64],
  bcd16: [0, 9999, 2 ** 16],
  bcd32: [0, 99_999_999, 2 ** 32],
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
  const whole = wholeTypes[type]
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
