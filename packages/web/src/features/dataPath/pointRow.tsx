import type { Point } from '@calm/core/job'
import { pointColumns, type PlaceOrMissing, type PointColumn, type PointFinding } from '@calm/core/points'
import { Trash2 } from 'lucide-react'
import { memo } from 'react'
import { Editable, Glyph, tip } from '../../ui'
import { ADDRESS_WIDTH, readCell, ROW_HEIGHT, TABLE_WIDTH, widthOf } from './pointCells'

/** What can be done with the point of a row. */
export interface RowDoes {
  readonly set: (say: string, point: Point, fields: Partial<Point>) => Promise<unknown>
  readonly remove: (point: Point) => void
  readonly why: (point: Point) => void
}

interface RowProps {
  /** What the programming tool of the controller adds to an address in the frame. */
  readonly toolAdds: 0 | 1
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

export const PointRow = memo(PlainPointRow, isSameRow)

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
      style={{ top, height: ROW_HEIGHT, width: TABLE_WIDTH }}
    >
      <span role="gridcell" className="w-6.5">
        <button
          type="button"
          aria-label={`${point.quantity}: why is it wrong${finding ? `. ${finding.say}` : ''}`}
          {...tip(finding?.say ?? 'Why is it wrong')}
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
              style={{ width: ADDRESS_WIDTH }}
              {...tip('missing' in place ? place.missing : `${place.size} from address ${place.address}`)}
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
