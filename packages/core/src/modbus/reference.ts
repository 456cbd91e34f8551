import { ok, refusal, type Result } from '../units'
import { protocolAddress, registerNumber, type ProtocolAddress } from './address'
import { limits } from './limits'
import { tableOfDigit, tables, type Table } from './tables'

/** The ways in which people write down where a value is. */
export type Notation = 'protocol' | 'number' | 'five-digit' | 'six-digit' | 'hex' | 'table-x-from-1' | 'table-x-from-0'

/** One way to read a register reference. */
export interface ReferenceReading {
  readonly notation: Notation
  /** Known when the notation names a table; otherwise the function code decides. */
  readonly table: Table | undefined
  readonly address: ProtocolAddress
  /** Bit of the register, 0 the lowest; only where the reference named one. */
  readonly bit: number | undefined
  /** The conversion in words, for example `40108 is holding register number 108, address 107 in the frame`. */
  readonly explanation: string
}

/** Notations with the words for choosing one. Counting from 0 or from 1 is a property of the document: ask once. */
export const notations: Readonly<Record<Notation, string>> = {
  protocol: 'counts from 0, as in the frame',
  number: 'counts from 1, as in the data model',
  'five-digit': 'table digit and four digits, from 1',
  'six-digit': 'table digit and five digits, from 1',
  hex: 'hexadecimal, counts from 0',
  'table-x-from-1': 'table digit, x, number from 1',
  'table-x-from-0': 'table digit, x, number from 0',
}

const EXPECTED = 'a register such as 107, 40108, 400108, 0x006B or 4x108'

/** What is known of a reference before it is read. */
export interface ReferenceContext {
  /** How the document counts. */
  readonly notation?: Notation | undefined
  /** The table that the function code works on: readings that name another one are struck out. */
  readonly table?: Table | undefined
}

/**
 * All readings of a register reference, the likeliest first. `40108` may be the five-digit number of holding register
 * 108, but also protocol address 40108; `107` counts from 0 or from 1. The caller chooses, or passes the notation of
 * the document and the table of the function code.
 *
 * A known table strikes out what names another one. Where the likeliest reading is struck out and nobody said how the
 * document counts, the reference contradicts the function and is refused: it is never read as something else.
 *
 * @source Modbus Application Protocol V1.1b3, 4.4; leading table digits are common practice
 * @example parseReference('40108', { table: 'input-registers' }) // refused: it is a holding register
 */
export function parseReference(text: string, known: ReferenceContext = {}): Result<readonly ReferenceReading[]> {
  const typed = text.trim()
  if (typed === '') return refusal('reference.blank', 'The register is blank.', 'nothing', EXPECTED)
  if (BLANKS.test(typed)) return refuseBlanks(typed, known)
  const [, body = '', bitText] = /^(.*?)(?:\.(\d{1,2}))?$/.exec(typed) ?? []
  const bit = bitText === undefined ? undefined : Number(bitText)
  if (bit !== undefined && bit > limits.lastBit) {
    return refusal(
      'reference.bit',
      `Bit ${bit} is not in a 16-bit register.`,
      typed,
      `a bit from 0 to ${limits.lastBit}`,
    )
  }
  const all = readings(body, bit)
  if (all.length === 0) return explainNoReading(typed, body)
  const counted = known.notation ? all.filter((reading) => reading.notation === known.notation) : all
  const [likeliest] = counted
  if (!likeliest) return refuseNotation(typed, known.notation, all, known.table)
  const fitting = counted.filter((reading) => namesNoOther(reading, known.table))
  if (!fitting.includes(likeliest)) return refuseTable(typed, likeliest, known.table)
  const table = likeliest.table ?? known.table
  if (bit !== undefined && table !== undefined && tables[table].bits === 1) {
    return refusal(
      'reference.bit-of-bit',
      `${body} is ${tables[table].one}, a single bit, and has no bits of its own.`,
      typed,
      body,
      [{ label: `Use ${body}`, value: body }],
    )
  }
  return ok(fitting)
}

const BLANKS = /[\s_'’]/

const namesNoOther = (reading: ReferenceReading, table: Table | undefined): boolean =>
  reading.table === undefined || table === undefined || reading.table === table

/** `40 108` may be one number or two: the likely reading is offered, never taken by itself. */
function refuseBlanks(typed: string, known: ReferenceContext): Result<never> {
  const joined = typed.replace(new RegExp(BLANKS, 'g'), '')
  const likely = parseReference(joined, known)
  return refusal(
    'reference.blanks',
    `"${typed}" has blanks or other marks inside.`,
    typed,
    EXPECTED,
    likely.ok ? [{ label: `Use ${joined}`, value: joined }] : [],
  )
}

function refuseNotation(
  typed: string,
  notation: Notation | undefined,
  all: readonly ReferenceReading[],
  table: Table | undefined,
): Result<never> {
  const words = notation ? notations[notation] : ''
  const offers = all
    .filter((reading) => namesNoOther(reading, table))
    .slice(0, 1)
    .flatMap((reading) => {
      const written = notation ? formatReference(reading.address, notation, reading.table ?? table) : undefined
      return written?.ok ? [{ label: `Read it as: ${reading.explanation}`, value: written.value }] : []
    })
  return refusal('reference.notation', `"${typed}" is not in the notation "${words}".`, typed, words, offers)
}

function refuseTable(typed: string, reading: ReferenceReading, table: Table | undefined): Result<never> {
  const named = reading.table ? tables[reading.table].one : 'another table'
  const read = table ? `${tables[table].name}s` : 'another'
  return refusal(
    'reference.table',
    `${typed} names ${named}; the function code works on ${read}.`,
    typed,
    table ? tables[table].one : EXPECTED,
  )
}

function readings(body: string, bit: number | undefined): ReferenceReading[] {
  const found: ReferenceReading[] = []
  const add = (notation: Notation, table: Table | undefined, address: number, explanation: string) => {
    if (address < 0 || address > limits.lastAddress) return
    found.push({ notation, table, address: protocolAddress(address), bit, explanation })
  }
  const inFrame = (address: number) => `address ${address} in the frame`
  const hex = /^(?:0x|16#)([0-9a-f]{1,4})$/i.exec(body) ?? /^([0-9][0-9a-f]{0,4})h$/i.exec(body)
  if (hex) {
    const address = parseInt(hex[1] ?? '', 16)
    add('hex', undefined, address, `${body} is hexadecimal: ${inFrame(address)}`)
    // `0x12` may also be coil 12 in the notation of a table digit and an x.
    if (!/^0x\d+$/i.test(body)) return found
  }
  const tableX = /^([0134])x(\d{1,5})$/i.exec(body)
  if (tableX) {
    const table = tableOfDigit(tableX[1] ?? '')
    const value = Number(tableX[2])
    if (table) {
      const name = tables[table].name
      add(
        'table-x-from-1',
        table,
        value - 1,
        `${body} counted from 1 is ${name} number ${value}, ${inFrame(value - 1)}`,
      )
      add('table-x-from-0', table, value, `${body} counted from 0 is ${name} at ${inFrame(value)}`)
    }
    return found
  }
  if (!/^\d{1,6}$/.test(body)) return found
  const value = Number(body)
  const table = tableOfDigit(body[0] ?? '')
  if (table && (body.length === 5 || body.length === 6)) {
    const number = Number(body.slice(1))
    const notation = body.length === 5 ? 'five-digit' : 'six-digit'
    const most = body.length === 5 ? limits.fiveDigitNumber : limits.lastAddress + 1
    if (number >= 1 && number <= most) {
      add(notation, table, number - 1, `${body} is ${tables[table].name} number ${number}, ${inFrame(number - 1)}`)
    }
  }
  if (body.length > 1 && body.startsWith('0')) return found
  add('protocol', undefined, value, `${value} counted from 0 is ${inFrame(value)}`)
  add('number', undefined, value - 1, `${value} counted from 1 is ${inFrame(value - 1)}`)
  return found
}

function explainNoReading(typed: string, body: string): Result<never> {
  if (/^[0-9a-f]{1,4}$/i.test(body) && /[a-f]/i.test(body)) {
    const value = `0x${body.toUpperCase()}`
    return refusal(
      'reference.hex-mark',
      `"${typed}" has letters. If it is hexadecimal, say so with 0x.`,
      typed,
      EXPECTED,
      [{ label: `Use ${value}`, value }],
    )
  }
  if (/^-?\d+$/.test(body)) {
    return refusal(
      'reference.range',
      `${typed} is no register: addresses end at 65535, numbers at 65536.`,
      typed,
      EXPECTED,
    )
  }
  return refusal('reference.form', `"${typed}" is not a register reference.`, typed, EXPECTED)
}

/**
 * Writes an address in a notation. Refused where the notation cannot hold it: five digits end at number 9999, and a
 * notation with a table digit needs to know the table.
 * @example formatReference(protocolAddress(107), 'five-digit', 'holding-registers') // '40108'
 */
export function formatReference(
  address: ProtocolAddress,
  notation: Notation,
  table: Table | undefined,
): Result<string> {
  const number = registerNumber(address)
  switch (notation) {
    case 'protocol':
      return ok(String(address))
    case 'number':
      return ok(String(number))
    case 'hex':
      return ok(`0x${address.toString(16).toUpperCase().padStart(4, '0')}`)
  }
  if (table === undefined) {
    return refusal(
      'reference.table-unknown',
      `Address ${address} cannot be written with a table digit: which table is meant is not known.`,
      `address ${address}`,
      'a function code, which names the table',
    )
  }
  const { digit } = tables[table]
  switch (notation) {
    case 'five-digit':
      if (number > limits.fiveDigitNumber) {
        return refusal(
          'reference.five-digits',
          `Five digits end at number ${limits.fiveDigitNumber}; address ${address} is number ${number}.`,
          `address ${address}`,
          'six digits, or an address counted from 0',
        )
      }
      return ok(`${digit}${String(number).padStart(4, '0')}`)
    case 'six-digit':
      return ok(`${digit}${String(number).padStart(5, '0')}`)
    case 'table-x-from-1':
      return ok(`${digit}x${number}`)
    case 'table-x-from-0':
      return ok(`${digit}x${address}`)
  }
}
