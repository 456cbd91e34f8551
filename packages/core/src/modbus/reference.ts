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

/**
 * All readings of a register reference, the likeliest first. `40108` may be the five-digit number of holding register
 * 108, but also protocol address 40108; `107` counts from 0 or from 1. The caller chooses, or passes the notation of
 * the document.
 *
 * @param notation keep only readings in this notation
 * @source Modbus Application Protocol V1.1b3, 4.4; leading table digits are common practice
 */
export function parseReference(text: string, notation?: Notation): Result<readonly ReferenceReading[]> {
  const typed = text.trim()
  if (typed === '') return refusal('reference.blank', 'The register is blank.', 'nothing', EXPECTED)
  const [, body = '', bitText] = /^(.*?)(?:\.(\d{1,2}))?$/.exec(typed.replace(/[\s_']/g, '')) ?? []
  const bit = bitText === undefined ? undefined : Number(bitText)
  if (bit !== undefined && bit > 15) {
    return refusal('reference.bit', `Bit ${bit} is not in a 16-bit register.`, typed, 'a bit from 0 to 15')
  }
  const candidates = readings(body, bit)
  const fitting = notation ? candidates.filter((reading) => reading.notation === notation) : candidates
  if (fitting.length > 0) return ok(fitting)
  if (candidates.length > 0 && notation) {
    return refusal(
      'reference.notation',
      `"${typed}" is not in the notation "${notations[notation]}".`,
      typed,
      notations[notation],
      candidates.slice(0, 1).map((reading) => ({
        label: `Read it as: ${reading.explanation}`,
        value: formatReference(reading.address, notation, reading.table),
      })),
    )
  }
  return explainNoReading(typed, body)
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
    const most = body.length === 5 ? 9999 : limits.lastAddress + 1
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
 * Writes an address in a notation. Five digits end at address 9998; beyond it six digits are written.
 * @example formatReference(protocolAddress(107), 'five-digit', 'holding-registers') // '40108'
 */
export function formatReference(
  address: ProtocolAddress,
  notation: Notation,
  table: Table = 'holding-registers',
): string {
  const number = registerNumber(address)
  const digit = tables[table].digit
  switch (notation) {
    case 'protocol':
      return String(address)
    case 'number':
      return String(number)
    case 'five-digit':
      return number <= 9999
        ? `${digit}${String(number).padStart(4, '0')}`
        : formatReference(address, 'six-digit', table)
    case 'six-digit':
      return `${digit}${String(number).padStart(5, '0')}`
    case 'hex':
      return `0x${address.toString(16).toUpperCase().padStart(4, '0')}`
    case 'table-x-from-1':
      return `${digit}x${number}`
    case 'table-x-from-0':
      return `${digit}x${address}`
  }
}
