import { blankPoint, deviceOf, type Handshake, type Job, type Point, type Source } from '../job'
import type { Change } from '../changes'
import type { Table } from '../modbus'
import type { Refusal } from '../units'
import { pointColumn, pointColumns, type PointColumnId, type PointEdit } from './columns'
import { isAmbiguous, readRegister, type DocumentCounts } from './document'

export type PointMatch = readonly (PointColumnId | undefined)[]

const refused = (code: string, what: string, found: string, expected: string): Refusal => ({
  code,
  what,
  found,
  expected,
  offers: [],
})

const plain = (text: string) => text.toLowerCase().replace(/[^a-z0-9]/g, '')

/** Guesses the columns of a table from its first row; a row with at least two known heads is a head. */
export function matchPointColumns(rows: readonly (readonly string[])[]): {
  readonly match: PointMatch
  readonly hasHead: boolean
} {
  const [first = []] = rows
  const used = new Set<PointColumnId>()
  const byHead = first.map((cell) => {
    const head = plain(cell)
    const column = pointColumns.find(
      ({ id, name, heads }) =>
        !used.has(id) &&
        head !== '' &&
        (plain(name) === head || plain(id) === head || heads.some((each) => plain(each) === head)),
    )
    if (column) used.add(column.id)
    return column?.id
  })
  if (byHead.filter((column) => column !== undefined).length >= 2) return { match: byHead, hasHead: true }
  const usual: readonly PointColumnId[] = ['quantity', 'register', 'type', 'order', 'scale', 'unit']
  const width = rows.reduce((most, row) => Math.max(most, row.length), 0)
  return { match: Array.from({ length: width }, (_, k) => usual[k]), hasHead: false }
}

/** One row as far as it can be read. */
export interface PointRowReading {
  /** Line of the table, from 1. */
  readonly line: number
  readonly cells: readonly string[]
  readonly quantity: string
  /** The point of the handshake that is called so already. */
  readonly known: Point | undefined
  readonly fields: Partial<Point> | undefined
  /** How its register was read, in words. */
  readonly explanation: string
  readonly problems: readonly { readonly column: PointColumnId; readonly refusal: Refusal }[]
}

/** Rows whose register leaves open where it counts from. */
export const openRows = (
  rows: readonly (readonly string[])[],
  match: PointMatch,
  hasHead: boolean,
  table: Table,
): number => {
  const at = match.indexOf('register')
  return at < 0 ? 0 : rows.slice(hasHead ? 1 : 0).filter((cells) => isAmbiguous(cells[at] ?? '', table)).length
}

/**
 * Reads rows as points of a handshake. A row that cannot be read says why, cell by cell, and does not keep the others
 * back; empty rows are passed over.
 */
export function readPointRows(
  rows: readonly (readonly string[])[],
  match: PointMatch,
  hasHead: boolean,
  handshake: Handshake,
  counts: DocumentCounts,
): readonly PointRowReading[] {
  const known = new Map(handshake.points.map((point) => [point.quantity, point]))
  const seen = new Map<string, number>()
  return rows
    .map((cells, k) => ({ cells, line: k + 1 }))
    .slice(hasHead ? 1 : 0)
    .filter(({ cells }) => cells.some((cell) => cell.trim() !== ''))
    .map(({ cells, line }) => readRow(cells, line, match, known, seen, counts))
}

function readRow(
  cells: readonly string[],
  line: number,
  match: PointMatch,
  known: ReadonlyMap<string, Point>,
  seen: Map<string, number>,
  counts: DocumentCounts,
): PointRowReading {
  const problems: { column: PointColumnId; refusal: Refusal }[] = []
  let fields: Partial<Point> = {}
  let place: NonNullable<PointEdit['place']> = {}
  let explanation = ''
  const quantity = (cells[match.indexOf('quantity')] ?? '').trim()
  const point = known.get(quantity)
  match.forEach((id, at) => {
    const cell = cells[at]?.trim() ?? ''
    if (!id || (cell === '' && id !== 'quantity')) return
    const read = pointColumn(id).read(cell)
    if (!read.ok) problems.push({ column: id, refusal: read.refusal })
    else {
      fields = { ...fields, ...read.value.fields }
      place = { ...place, ...read.value.place }
    }
  })
  const twice = seen.get(quantity)
  if (quantity !== '' && twice !== undefined)
    problems.push({
      column: 'quantity',
      refusal: refused('point.twice', `"${quantity}" stands in line ${twice} already.`, quantity, 'a name of its own'),
    })
  seen.set(quantity, line)
  const [low, high] = [fields.low, fields.high]
  if (typeof low === 'number' && typeof high === 'number' && low >= high)
    problems.push({
      column: 'low',
      refusal: refused(
        'point.range',
        `The range goes from ${low} to ${high}.`,
        `${low} to ${high}`,
        'the lower number first',
      ),
    })
  if (place.register !== undefined) {
    const register = readRegister(place.register, counts)
    if (register.ok) {
      place = { ...place, register: register.value.kept }
      explanation = register.value.explanation
    } else problems.push({ column: 'register', refusal: register.refusal })
  } else if (!point?.source)
    problems.push({
      column: 'register',
      refusal: refused('point.register', 'It has no register.', 'nothing', 'a register'),
    })
  const source: Source = { register: '', type: 'uint16', order: 'ABCD', scale: 1, ...point?.source, ...place }
  return {
    line,
    cells,
    quantity,
    known: point,
    fields: problems.length === 0 ? { ...fields, source } : undefined,
    explanation,
    problems,
  }
}

const tagOf = (deviceTag: string, quantity: string): string => {
  const word = (text: string) => text.replace(/[^A-Za-z0-9]+/g, '_').replace(/^_|_$/g, '')
  return `${word(deviceTag).replaceAll('_', '')}_${word(quantity)}`.slice(0, 40)
}

/** The changes that put rows into a handshake: new points behind those that are there, and changed ones. */
export function pointChanges(
  readings: readonly PointRowReading[],
  job: Job,
  handshake: Handshake,
  newId: () => string,
): readonly Change[] {
  const deviceTag = deviceOf(job, handshake.deviceId)?.tag ?? ''
  let position = Math.max(-1, ...handshake.points.map((point) => point.position))
  return readings.flatMap(({ known, fields, quantity }): readonly Change[] => {
    if (!fields) return []
    if (known) return [{ op: 'set', table: 'point', id: known.id, version: known.version, fields }]
    position += 1
    const own = { ...blankPoint(deviceTag), tag: tagOf(deviceTag, quantity), asked: false, ...fields }
    return [{ op: 'add', table: 'point', id: newId(), fields: { ...own, position, handshakeId: handshake.id } }]
  })
}
