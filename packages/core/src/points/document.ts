import { formatReference, parseReference, tables, type Notation, type ReferenceReading, type Table } from '../modbus'
import { refusal, ok, type Result } from '../units'

/** How a document counts its registers. Asked once for each document that leaves it open. */
export interface DocumentCounts {
  /** Where a bare number or `4x100` counts from. */
  readonly from: 0 | 1
  /** The table of numbers that name none. */
  readonly table: Table
}

/** A register of a document, as it is kept: in a notation that is read in one way only. */
export interface DocumentRegister {
  readonly kept: string
  /** The conversion in words. */
  readonly explanation: string
}

/** Notations that leave open where they count from. */
const openNotations: ReadonlySet<Notation> = new Set<Notation>([
  'protocol',
  'number',
  'table-x-from-0',
  'table-x-from-1',
])

/**
 * Whether a reading leaves open what is meant: by its notation, or since its first digit would name a table of bits in a
 * document of registers (`12000`), so that it is more likely no table at all.
 */
const leavesOpen = ({ notation, table }: ReferenceReading, of: Table): boolean =>
  openNotations.has(notation) || (table !== undefined && tables[table].bits === 1 && tables[of].bits === 16)

/** Whether a register can be read in more than one way, so that the document has to say how it counts. */
export function isAmbiguous(text: string, table: Table): boolean {
  const readings = parseReference(joined(text))
  const [likeliest] = readings.ok ? readings.value : []
  return likeliest !== undefined && leavesOpen(likeliest, table)
}

/** `40 132` in a table is one number: a cell holds one register. */
const joined = (text: string): string => text.trim().replace(/[\s'’_]/g, '')

/**
 * A register of a document as it is kept. A table digit says which table and where it counts from; what leaves that open
 * counts as the document does.
 *
 * @example readRegister('40 132', { from: 0, table: 'input-registers' }) // '40132', address 131
 */
export function readRegister(text: string, counts: DocumentCounts): Result<DocumentRegister> {
  const cell = joined(text)
  const readings = parseReference(cell)
  if (!readings.ok) return readings
  const reading = chosen(readings.value, counts)
  if (!reading)
    return refusal(
      'register.counts',
      `"${text}" is no register of a document that counts from ${counts.from}.`,
      text,
      `a register from ${counts.from}`,
    )
  const table = reading.table ?? counts.table
  const five = formatReference(reading.address, 'five-digit', table)
  const kept = five.ok ? five : formatReference(reading.address, 'six-digit', table)
  if (!kept.ok) return kept
  const bit = reading.bit === undefined ? '' : `.${reading.bit}`
  return ok({ kept: `${kept.value}${bit}`, explanation: reading.explanation })
}

function chosen(readings: readonly ReferenceReading[], { from, table }: DocumentCounts): ReferenceReading | undefined {
  const [likeliest] = readings
  if (!likeliest || !leavesOpen(likeliest, table)) return likeliest
  const isX = likeliest.notation.startsWith('table-x')
  const wanted: Notation = isX ? (from === 0 ? 'table-x-from-0' : 'table-x-from-1') : from === 0 ? 'protocol' : 'number'
  return readings.find(({ notation }) => notation === wanted)
}
