import {
  byteOrders,
  dataTypes,
  isByteType,
  registersOf,
  type ByteOrder,
  type DataType,
  type ValueFormat,
} from '../values'

/** Types that a number can hide in. Texts are read by eye; a single bit has a search of its own. */
const numbers: readonly DataType[] = [
  'uint16',
  'int16',
  'bcd16',
  'uint8-high',
  'uint8-low',
  'int8-high',
  'int8-low',
  'uint32',
  'int32',
  'float32',
  'bcd32',
  'uint64',
  'int64',
  'float64',
]
const uncommonTypes: ReadonlySet<DataType> = new Set<DataType>([
  'uint8-high',
  'uint8-low',
  'int8-high',
  'int8-low',
  'bcd16',
  'bcd32',
  'uint64',
  'int64',
  'float64',
])

/** The orders that differ from one another for so many registers. */
const ordersFor: Readonly<Record<number, readonly ByteOrder[]>> = {
  1: ['ABCD', 'BADC'],
  2: ['ABCD', 'CDAB', 'BADC', 'DCBA'],
  4: ['ABCD', 'CDAB', 'BADC', 'DCBA', 'CDAB-halves', 'DCBA-halves'],
}

/** An order as the one that does the same to so many registers: words of a single register have no order. */
export function sameOrder(order: ByteOrder, registers: number): ByteOrder {
  const { bytesSwapped, wordsReversed } = byteOrders[order]
  if (registers === 1) return bytesSwapped ? 'BADC' : 'ABCD'
  if (registers === 2 && wordsReversed === 'halves') return bytesSwapped ? 'DCBA' : 'CDAB'
  return order
}

/** A format that is tried, and how far it is from the planned one. */
export interface TriedFormat {
  readonly format: ValueFormat
  readonly registers: number
  readonly isOtherType: boolean
  readonly isOtherOrder: boolean
  /** How much of it is met seldom. */
  readonly uncommon: number
}

/** All formats that are tried for a planned one, the planned one among them. */
export function formatsFor(planned: ValueFormat): readonly TriedFormat[] {
  if (planned.type === 'bool') return bitsFor(planned)
  const types = numbers.includes(planned.type) ? numbers : [planned.type, ...numbers]
  return types.flatMap((type) => {
    const format = { ...planned, type }
    const registers = registersOf(format)
    // The other order of the two bytes is the other byte, which is tried by itself.
    const orders = isByteType(type) ? [sameOrder(planned.order, registers)] : (ordersFor[registers] ?? [planned.order])
    return orders.map((order) => triedFormat({ ...format, order }, registers, planned))
  })
}

/** One bit: any of the sixteen, in either order of the two bytes. The other order is the same bit eight places on. */
function bitsFor(planned: ValueFormat): readonly TriedFormat[] {
  return Array.from({ length: 16 }, (_, bit) => {
    const isPlanned = bit === (planned.bit ?? 0)
    return {
      format: { ...planned, bit },
      registers: 1,
      isOtherType: !isPlanned,
      isOtherOrder: false,
      uncommon: 0,
    }
  })
}

function triedFormat(format: ValueFormat, registers: number, planned: ValueFormat): TriedFormat {
  const isOtherType = format.type !== planned.type
  const isOtherOrder = format.order !== sameOrder(planned.order, registers)
  const { bytesSwapped, wordsReversed } = byteOrders[format.order]
  return {
    format,
    registers,
    isOtherType,
    isOtherOrder,
    uncommon:
      (isOtherType && uncommonTypes.has(format.type) ? 1 : 0) +
      (isOtherOrder && bytesSwapped ? 1 : 0) +
      (isOtherOrder && wordsReversed === 'halves' ? 1 : 0),
  }
}

/** @example typeName('float32') // 'float 32' */
export const typeName = (type: DataType): string => dataTypes[type].name
