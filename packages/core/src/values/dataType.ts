/** How words are read as a value. Text and BCD may be of several lengths; the others have one. */
export type DataType =
  | 'bool'
  | 'bits16'
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
