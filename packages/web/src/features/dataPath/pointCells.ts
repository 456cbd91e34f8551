import type { Point, Source } from '@calm/core/job'
import { pointColumns, readRegister, type PlaceOrMissing, type PointColumn } from '@calm/core/points'
import { ok, type Result } from '@calm/core/units'

/** Height of a row, px. */
export const ROW_HEIGHT = 34
const widths: Readonly<Partial<Record<PointColumn['id'], number>>> = {
  quantity: 190,
  register: 92,
  type: 82,
  order: 78,
  scale: 66,
  offset: 60,
  unit: 62,
  low: 70,
  high: 70,
  decimals: 66,
  pollMs: 78,
  access: 148,
  tag: 170,
  shownAt: 150,
  moves: 170,
  updates: 120,
}
export const widthOf = (column: PointColumn) => widths[column.id] ?? 100
/** The first columns of the row: where it is found wrong, and the address in the frame. */
export const ADDRESS_WIDTH = 96
const EXTRA = 26 + ADDRESS_WIDTH + 40
export const TABLE_WIDTH = EXTRA + pointColumns.reduce((sum, column) => sum + widthOf(column), 0)

/** What a cell would set: a field of the point, or its place with the rest of it as it stands. */
export function readCell(
  column: PointColumn,
  text: string,
  point: Point,
  place: PlaceOrMissing,
): Result<Partial<Point>> {
  const read = column.read(text)
  if (!read.ok) return read
  const { fields = {}, place: part } = read.value
  if (!part) return ok(fields)
  if (column.id === 'register') {
    if (text.trim() === '') return ok({ source: null })
    // In this table bare numbers count from 0, as in the frame beside it.
    const table = 'missing' in place ? 'holding-registers' : place.table
    const register = readRegister(text, { from: 0, table })
    if (!register.ok) return register
    part.register = register.value.kept
  }
  return ok({ source: { ...ownPlace(point, place), ...part } })
}

function ownPlace(point: Point, place: PlaceOrMissing): Source {
  if (point.source) return point.source
  if ('missing' in place) return { register: '40001', type: 'uint16', order: 'ABCD', scale: 1 }
  const register = readRegister(String(place.address), { from: 0, table: place.table })
  const { format, scale } = place.plan
  return { register: register.ok ? register.value.kept : '', type: format.type, order: format.order, scale }
}
