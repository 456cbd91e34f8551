/** How words are read as a value. Text and BCD may be of several lengths; the others have one. */
export type DataType =
  | 'bool'
  | 'bits16'
  | 'uint8-high'
  | 'uint8-low'
  | 'int8-high'
  | 'int8-low'
  | 'uint16'
  | 'int16'
  | 'uint32'
  | 'int32'
  | 'uint64'
  | 'int64'
  | 'float32'
  | 'float64'
  | 'bcd16'
  | 'bcd32'
  | 'ascii'

export interface DataTypeFacts {
  readonly name: string
  /** Registers the type takes; `undefined` where the count decides. */
  readonly registers: 1 | 2 | 4 | undefined
  readonly explain: string
}

export const dataTypes: Readonly<Record<DataType, DataTypeFacts>> = {
  bool: { name: 'bool', registers: 1, explain: 'one bit of a register' },
  bits16: { name: '16 bits', registers: 1, explain: 'sixteen separate bits' },
  'uint8-high': {
    name: 'uint 8 high',
    registers: 1,
    explain: 'whole number from 0 to 255, the high byte of a register',
  },
  'uint8-low': { name: 'uint 8 low', registers: 1, explain: 'whole number from 0 to 255, the low byte of a register' },
  'int8-high': {
    name: 'int 8 high',
    registers: 1,
    explain: 'whole number from -128 to 127, the high byte of a register',
  },
  'int8-low': { name: 'int 8 low', registers: 1, explain: 'whole number from -128 to 127, the low byte of a register' },
  uint16: { name: 'uint 16', registers: 1, explain: 'whole number from 0 to 65 535' },
  int16: { name: 'int 16', registers: 1, explain: 'whole number from -32 768 to 32 767, two’s complement' },
  uint32: { name: 'uint 32', registers: 2, explain: 'whole number from 0 to 4 294 967 295' },
  int32: { name: 'int 32', registers: 2, explain: 'whole number, two’s complement, 32 bits' },
  uint64: { name: 'uint 64', registers: 4, explain: 'whole number, 64 bits' },
  int64: { name: 'int 64', registers: 4, explain: 'whole number, two’s complement, 64 bits' },
  float32: { name: 'float 32', registers: 2, explain: 'IEEE 754 single precision' },
  float64: { name: 'float 64', registers: 4, explain: 'IEEE 754 double precision' },
  bcd16: { name: 'BCD 16', registers: 1, explain: 'four decimal digits, four bits each' },
  bcd32: { name: 'BCD 32', registers: 2, explain: 'eight decimal digits, four bits each' },
  ascii: { name: 'ASCII', registers: undefined, explain: 'two characters in each register' },
}

/** Types of one byte, which leave the other byte of their register to somebody else, with where their bits begin. */
export const byteTypes = {
  'uint8-high': { shift: 8, isSigned: false },
  'uint8-low': { shift: 0, isSigned: false },
  'int8-high': { shift: 8, isSigned: true },
  'int8-low': { shift: 0, isSigned: true },
} as const satisfies Partial<Record<DataType, { readonly shift: 0 | 8; readonly isSigned: boolean }>>

export type ByteType = keyof typeof byteTypes

export const isByteType = (type: DataType): type is ByteType => Object.hasOwn(byteTypes, type)

/** The bits of a register that a value of one register takes, as a mask. */
export function bitsTaken(type: DataType, bit = 0): number {
  if (type === 'bool') return 1 << bit
  return isByteType(type) ? 0xff << byteTypes[type].shift : 0xffff
}

/** What whole numbers hold, both ends included. */
export const wholeRanges: Readonly<Partial<Record<DataType, readonly [bigint, bigint]>>> = {
  'uint8-high': [0n, 0xffn],
  'uint8-low': [0n, 0xffn],
  'int8-high': [-0x80n, 0x7fn],
  'int8-low': [-0x80n, 0x7fn],
  uint16: [0n, 0xffffn],
  int16: [-0x8000n, 0x7fffn],
  uint32: [0n, 0xffff_ffffn],
  int32: [-0x8000_0000n, 0x7fff_ffffn],
  uint64: [0n, 0xffff_ffff_ffff_ffffn],
  int64: [-0x8000_0000_0000_0000n, 0x7fff_ffff_ffff_ffffn],
  bcd16: [0n, 9999n],
  bcd32: [0n, 99_999_999n],
}
