import { parseReference, tables, type Table } from '../modbus'
import { ok, refusal, type Result } from '../units'
import type { Forbidden } from './wanted'

const EXPECTED = 'addresses in the frame or registers, for example 50-60, 40101'

/**
 * Addresses that must not be read: single ones and ranges, both ends included, parted by commas. A reference with a
 * table digit names its table; a bare number is an address in the frame, of the table that is given.
 *
 * @example readForbidden('50-60, 30101', 'holding-registers')
 */
export function readForbidden(text: string, table: Table): Result<readonly Forbidden[]> {
  const gaps: Forbidden[] = []
  for (const part of text.split(',').map((each) => each.trim())) {
    if (part === '') continue
    const [from = '', to = from, more] = part.split(/\s*[-–]\s*/)
    const [first, last] = [placeOf(from, table), placeOf(to, table)]
    if (!first || !last || more !== undefined)
      return refusal('forbidden.part', `"${part}" is no address and no range.`, part, EXPECTED)
    if (first.table !== last.table)
      return refusal('forbidden.tables', `"${part}" begins in one table and ends in another.`, part, EXPECTED)
    if (first.address > last.address)
      return refusal('forbidden.range', `"${part}" ends before it begins.`, part, 'the lower address first')
    gaps.push({ table: first.table, first: first.address, last: last.address })
  }
  return ok(gaps)
}

/** A bare number counts from 0 here, as it does everywhere on the data path. */
function placeOf(text: string, table: Table): { readonly table: Table; readonly address: number } | undefined {
  const readings = parseReference(text)
  const [reading] = readings.ok ? readings.value : []
  if (!reading || reading.bit !== undefined) return undefined
  const named = reading.table
  // `12000` in a device of registers is an address, not a discrete input.
  if (named !== undefined && tables[named].bits === 1 && tables[table].bits === 16)
    return /^\d+$/.test(text) && Number(text) <= 65_535
      ? { table, address: Number(text) }
      : { table: named, address: reading.address }
  return { table: named ?? table, address: reading.address }
}

/**
 * The same for whoever asks. A text that cannot be read protects everything, in every table: one slip of the keyboard
 * must not lift a ban. It is refused where it is typed, and at every other door.
 */
export const forbiddenOf = (text: string, table: Table): readonly Forbidden[] => {
  const read = readForbidden(text, table)
  if (read.ok) return read.value
  return (Object.keys(tables) as Table[]).map((each) => ({ table: each, first: 0, last: 65_535 }))
}
