/** The four tables of the data model. */
export type Table = 'coils' | 'discrete-inputs' | 'input-registers' | 'holding-registers'

interface TableFacts {
  readonly name: string
  /** With its article, for a sentence: `an input register`. */
  readonly one: string
  /** Leading digit in the five- and six-digit notations. */
  readonly digit: 0 | 1 | 3 | 4
  readonly readBy: 1 | 2 | 3 | 4
  readonly writable: boolean
  readonly bits: 1 | 16
}

/** @source Modbus Application Protocol V1.1b3, 4.3; the leading digit is common practice */
export const tables: Readonly<Record<Table, TableFacts>> = {
  coils: { name: 'coil', one: 'a coil', digit: 0, readBy: 1, writable: true, bits: 1 },
  'discrete-inputs': { name: 'discrete input', one: 'a discrete input', digit: 1, readBy: 2, writable: false, bits: 1 },
  'input-registers': {
    name: 'input register',
    one: 'an input register',
    digit: 3,
    readBy: 4,
    writable: false,
    bits: 16,
  },
  'holding-registers': {
    name: 'holding register',
    one: 'a holding register',
    digit: 4,
    readBy: 3,
    writable: true,
    bits: 16,
  },
}

/**
 * The table that a function code works on; `undefined` for codes that name none.
 * @source Modbus Application Protocol V1.1b3, clause 6
 */
export function tableOfFunction(code: number): Table | undefined {
  switch (code) {
    case 1:
    case 5:
    case 15:
      return 'coils'
    case 2:
      return 'discrete-inputs'
    case 4:
      return 'input-registers'
    case 3:
    case 6:
    case 16:
    case 22:
    case 23:
      return 'holding-registers'
    default:
      return undefined
  }
}

export const tableOfDigit = (digit: string): Table | undefined =>
  (Object.keys(tables) as Table[]).find((table) => String(tables[table].digit) === digit)
