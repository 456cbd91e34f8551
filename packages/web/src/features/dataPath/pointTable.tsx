import type { Handshake, Job } from '@calm/core/job'
import { placer, pointColumns, type PointFinding } from '@calm/core/points'
import { useVirtualizer } from '@tanstack/react-virtual'
import { useLayoutEffect, useMemo, useRef } from 'react'
import type { JobEdit } from '../../edit'
import { PointRow, type RowDoes } from './pointRow'
import { ADDRESS_WIDTH, readCell, ROW_HEIGHT, TABLE_WIDTH, widthOf } from './pointCells'

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
    estimateSize: () => ROW_HEIGHT,
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
      <div
        role="row"
        className="sticky top-0 z-6 flex bg-sheet py-1 text-note text-ink-soft"
        style={{ width: TABLE_WIDTH }}
      >
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
              <span role="columnheader" className="pr-2" style={{ width: ADDRESS_WIDTH }}>
                {toolAdds === 0 ? 'Address' : 'Address (tool)'}
              </span>
            )}
          </span>
        ))}
        <span role="columnheader" className="sr-only">
          Remove
        </span>
      </div>
      <div className="relative" style={{ height: rows.getTotalSize(), width: TABLE_WIDTH }}>
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
