import type { Handshake, Job, Point, Source } from '@calm/core/job'
import {
  placer,
  pointColumns,
  readRegister,
  type PlaceOrMissing,
  type PointColumn,
  type PointFinding,
} from '@calm/core/points'
import { ok, type Result } from '@calm/core/units'
import { useVirtualizer } from '@tanstack/react-virtual'
import { Trash2 } from 'lucide-react'
import { memo, useLayoutEffect, useMemo, useRef } from 'react'
import type { JobEdit } from '../../edit'
import { Editable, Glyph } from '../../ui'

const ROW = 34
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
}
const widthOf = (column: PointColumn) => widths[column.id] ?? 100
/** The first columns of the row: where it is found wrong, and the address in the frame. */
const ADDRESS = 96
const EXTRA = 26 + ADDRESS + 40
const WIDE = EXTRA + pointColumns.reduce((sum, column) => sum + widthOf(column), 0)

interface TableProps {
  readonly job: Job
  readonly handshake: Handshake
  readonly edit: JobEdit
  readonly found: ReadonlyMap<string, PointFinding>
  readonly chosenId: string | undefined
  readonly onWhy: (pointId: string) => void
  /** What the programming tool of the controller adds to an address in the frame. */
  readonly toolAdds: 0 | 1
}

/** Only the rows in sight are drawn: a list may be thousands long. */
export function PointTable({ job, handshake, edit, found, chosenId, onWhy, toolAdds }: TableProps) {
  const scroller = useRef<HTMLDivElement>(null)
  const rows = useVirtualizer({
    count: handshake.points.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 12,
  })
  const placeAt = useMemo(() => placer(job, handshake), [job, handshake])
  // Rows keep these two functions from edit to edit, so that only the row that changed is drawn again.
  const latest = useRef({ edit, onWhy })
  useLayoutEffect(() => {
    latest.current = { edit, onWhy }
  })
  const does = useMemo<RowDoes>(
    () => ({
      set: (say, point, fields) => latest.current.edit.set(say, 'point', point, fields),
      remove: (point) => {
        const { edit: now } = latest.current
        now.attempt(now.removeRow(`${point.quantity} removed.`, 'point', point))
      },
      why: (point) => latest.current.onWhy(point.id),
    }),
    [],
  )
  const fillFromAbove = (row: number, columnId: string) => {
    const [above, point] = [handshake.points[row - 1], handshake.points[row]]
    const column = pointColumns.find(({ id }) => id === columnId)
    if (!above || !point || !column || column.id === 'quantity' || column.id === 'tag') return
    const read = readCell(column, column.show(above), point, placeAt(point))
    if (read.ok)
      edit.attempt(edit.set(`${point.quantity}: ${column.name.toLowerCase()} as above.`, 'point', point, read.value))
  }
  return (
    <div
      ref={scroller}
      className="min-h-50 flex-1 overflow-auto border-y border-rule-strong"
      role="grid"
      tabIndex={-1}
      aria-label="Points"
      aria-rowcount={handshake.points.length + 1}
      onKeyDown={(event) => moveFocus(event, fillFromAbove)}
    >
      <div role="row" className="sticky top-0 z-6 flex bg-sheet py-1 text-note text-ink-soft" style={{ width: WIDE }}>
        <span role="columnheader" className="sr-only">
          State
        </span>
        <span aria-hidden className="w-6.5" />
        {pointColumns.map((column, k) => (
          <span key={column.id} className="contents">
            <span role="columnheader" className="pr-2" style={{ width: widthOf(column) }}>
              {column.name}
            </span>
            {k === 1 && (
              <span role="columnheader" className="pr-2" style={{ width: ADDRESS }}>
                {toolAdds === 0 ? 'Address' : 'Address (tool)'}
              </span>
            )}
          </span>
        ))}
        <span role="columnheader" className="sr-only">
          Remove
        </span>
      </div>
      <div className="relative" style={{ height: rows.getTotalSize(), width: WIDE }}>
        {rows.getVirtualItems().map(({ index, start }) => {
          const point = handshake.points[index]
          return (
            point && (
              <PointRow
                key={point.id}
                top={start}
                index={index}
                point={point}
                place={placeAt(point)}
                does={does}
                finding={found.get(point.id)}
                isChosen={point.id === chosenId}
                toolAdds={toolAdds}
              />
            )
          )
        })}
      </div>
    </div>
  )
}

/** Arrow keys go from cell to cell; Ctrl D takes over what stands in the row above. */
function moveFocus(event: React.KeyboardEvent<HTMLDivElement>, fillFromAbove: (row: number, column: string) => void) {
  const target = event.target as HTMLElement
  if (target.tagName === 'INPUT') return
  const [row, cell] = [target.closest<HTMLElement>('[data-point-row]'), target.closest<HTMLElement>('[data-col]')]
  const by = { ArrowDown: [1, 0], ArrowUp: [-1, 0], ArrowLeft: [0, -1], ArrowRight: [0, 1] }[event.key]
  if (!row || !cell) return
  if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'd') {
    event.preventDefault()
    fillFromAbove(Number(row.dataset.pointRow), cell.dataset.col ?? '')
    return
  }
  const columns = [...row.querySelectorAll<HTMLElement>('[data-col]')]
  if (!by) return
  const at = columns.indexOf(cell) + (by[1] ?? 0)
  const index = Number(row.dataset.pointRow) + (by[0] ?? 0)
  const next = event.currentTarget.querySelector<HTMLElement>(`[data-point-row="${index}"]`)
  const column = columns[at]?.dataset.col
  const edit = next?.querySelector<HTMLElement>(`[data-col="${column}"] [data-edit]`)
  if (!edit) return
  event.preventDefault()
  edit.focus()
}

/** What can be done with the point of a row. */
interface RowDoes {
  readonly set: (say: string, point: Point, fields: Partial<Point>) => Promise<unknown>
  readonly remove: (point: Point) => void
  readonly why: (point: Point) => void
}

interface RowProps extends Pick<TableProps, 'toolAdds'> {
  readonly top: number
  readonly index: number
  readonly point: Point
  readonly place: PlaceOrMissing
  readonly does: RowDoes
  readonly finding: PointFinding | undefined
  readonly isChosen: boolean
}

/** Whether two places are drawn alike. */
function isSamePlace(one: PlaceOrMissing, other: PlaceOrMissing): boolean {
  if ('missing' in one || 'missing' in other)
    return 'missing' in one && 'missing' in other && one.missing === other.missing
  const { format: a, scale } = one.plan
  const { format: b } = other.plan
  return (
    one.table === other.table &&
    one.address === other.address &&
    one.size === other.size &&
    a.type === b.type &&
    a.order === b.order &&
    a.bit === b.bit &&
    scale === other.plan.scale
  )
}

/** Drawn again only where something changed that it shows: rows are many, and every edit makes a new job. */
const isSameRow = (one: RowProps, other: RowProps): boolean =>
  one.point === other.point &&
  one.top === other.top &&
  one.index === other.index &&
  one.isChosen === other.isChosen &&
  one.toolAdds === other.toolAdds &&
  one.does === other.does &&
  one.finding?.say === other.finding?.say &&
  one.finding?.severity === other.finding?.severity &&
  isSamePlace(one.place, other.place)

const PointRow = memo(PlainPointRow, isSameRow)

function PlainPointRow({ top, index, point, place, does, finding, isChosen, toolAdds }: RowProps) {
  const save = (column: PointColumn, text: string) => {
    const read = readCell(column, text, point, place)
    if (!read.ok) return Promise.resolve()
    return does.set(`${point.quantity}: ${column.name.toLowerCase()} changed.`, point, read.value)
  }
  return (
    <div
      role="row"
      aria-rowindex={index + 2}
      aria-selected={isChosen}
      data-point-row={index}
      data-quantity={point.quantity}
      className="absolute left-0 flex items-center border-t border-rule text-row aria-selected:bg-ground"
      style={{ top, height: ROW, width: WIDE }}
    >
      <span role="gridcell" className="w-6.5">
        <button
          type="button"
          aria-label={`${point.quantity}: why is it wrong`}
          title={finding?.say ?? 'Why is it wrong'}
          onClick={() => does.why(point)}
        >
          <Glyph
            state={
              finding
                ? finding.severity === 'will-not-work'
                  ? 'at-odds'
                  : 'in-hand'
                : 'missing' in place
                  ? 'waiting'
                  : 'not-started'
            }
            size={15}
          />
        </button>
      </span>
      {pointColumns.map((column, k) => (
        <span key={column.id} className="contents">
          <span role="gridcell" data-col={column.id} className="pr-2" style={{ width: widthOf(column) }}>
            <Editable
              label={`${column.name} of ${point.quantity}`}
              text={column.show(point)}
              shown={column.show(point) || <span className="text-ink-soft">{blankOf(column, place)}</span>}
              spoken={column.show(point) || blankOf(column, place).replace('–', 'blank')}
              typed={column.typed}
              className={column.typed ? 'font-typed text-note' : ''}
              inputClassName="min-w-30"
              choices={column.choices}
              read={(text) => readCell(column, text, point, place)}
              onSave={(text) => save(column, text)}
            />
          </span>
          {k === 1 && (
            <span
              role="gridcell"
              className="pr-2 font-typed text-note text-ink-soft"
              style={{ width: ADDRESS }}
              title={'missing' in place ? place.missing : `${place.size} from address ${place.address}`}
            >
              {'missing' in place ? '–' : addressText(place, toolAdds)}
            </span>
          )}
        </span>
      ))}
      <span role="gridcell" className="w-10">
        <button
          type="button"
          className="grid size-7 place-items-center text-ink-soft hover:text-ink"
          aria-label={`Remove ${point.quantity}`}
          onClick={() => does.remove(point)}
        >
          <Trash2 size={14} aria-hidden />
        </button>
      </span>
    </div>
  )
}

/** @example addressText({ address: 22, size: 2 }, 1) // '22-23 (23)' */
const addressText = ({ address, size }: { address: number; size: number }, toolAdds: number): string =>
  `${size === 1 ? address : `${address}-${address + size - 1}`}${toolAdds === 0 ? '' : ` (${address + toolAdds})`}`

/** What stands in grey where a point says nothing itself: its place is by the terms, or it is open. */
function blankOf(column: PointColumn, place: PlaceOrMissing): string {
  const own = { register: 'terms', type: '=', order: '=', scale: '=' }[column.id as string]
  return own === undefined || 'missing' in place ? '–' : own
}

/** What a cell would set: a field of the point, or its place with the rest of it as it stands. */
function readCell(column: PointColumn, text: string, point: Point, place: PlaceOrMissing): Result<Partial<Point>> {
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
