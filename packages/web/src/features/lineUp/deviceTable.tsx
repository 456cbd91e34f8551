import type { Job } from '@calm/core/job'
import { deviceColumn, type DeviceColumnId } from '@calm/core/lineUp'
import { useVirtualizer } from '@tanstack/react-virtual'
import { ArrowDown, ArrowUp } from 'lucide-react'
import { useEffect, useLayoutEffect, useMemo, useRef } from 'react'
import { shortHeads, type ColumnSet } from './columnSets'
import { DeviceRow, type RowActions } from './deviceRow'
import { useGridKeys } from './gridKeys'
import type { DeviceLine } from './lines'
import type { Sorting } from './shownLines'
import type { Grid } from './useGrid'
import type { LineUp } from './useLineUp'

interface TableProps {
  readonly job: Job
  readonly lines: readonly DeviceLine[]
  readonly columns: ColumnSet
  readonly grid: Grid
  readonly lineUp: LineUp
  readonly selectedId: string | undefined
  readonly sorting: Sorting | undefined
  readonly onSort: (column: DeviceColumnId) => void
  /** What scrolls the table. */
  readonly scroller: HTMLElement | null
}

const ROW = 35
/** Rows drawn above and below what is seen, so that scrolling never shows a gap. */
const SPARE = 12

/** The devices. Only the rows near the window are drawn, so a long list costs no more than a short one. */
export function DeviceTable({ job, lines, columns, grid, lineUp, selectedId, sorting, onSort, scroller }: TableProps) {
  const rows = useVirtualizer({
    count: lines.length,
    getScrollElement: () => scroller,
    estimateSize: () => ROW,
    overscan: SPARE,
    getItemKey: (index) => lines[index]?.device.id ?? index,
  })
  const followed = grid.range?.focusId ?? selectedId
  const index = lines.findIndex((line) => line.device.id === followed)
  const shownFor = useRef<string | undefined>(undefined)
  useEffect(() => {
    // Follows the choice, not every change of the list around it.
    if (!scroller || index < 0 || shownFor.current === followed) return
    shownFor.current = followed
    rows.scrollToIndex(index, { align: 'auto' })
  }, [rows, scroller, index, followed])
  const ids: readonly DeviceColumnId[] = ['tag', ...columns.columns.map((each) => each.id)]
  const current = useRef({ grid, lineUp })
  useLayoutEffect(() => {
    current.current = { grid, lineUp }
  })
  const actions = useMemo(
    (): RowActions => ({
      change: (say, changes) => current.current.lineUp.change(say, changes),
      select: (deviceId, extend) => current.current.grid.choose(deviceId, extend),
      setAll: (column, text, deviceId) => current.current.grid.setAll(column, text, deviceId),
    }),
    [],
  )
  const keys = useGridKeys({ grid, lines, columns: ids })

  const drawn = rows.getVirtualItems()
  const above = drawn[0]?.start ?? 0
  const below = rows.getTotalSize() - (drawn.at(-1)?.end ?? 0)
  return (
    <table aria-rowcount={lines.length + 1} {...keys}>
      <caption className="visually-hidden">Devices of {job.name}</caption>
      <colgroup>
        <col style={{ width: 86 }} />
        {columns.columns.map((each) => (
          <col key={each.id} className={each.hideNarrow ? 'hide-narrow' : ''} style={{ width: each.width }} />
        ))}
        {columns.ladder && <col className="hide-narrow" style={{ width: 110 }} />}
        <col />
      </colgroup>
      <thead>
        <tr aria-rowindex={1}>
          {ids.map((id) => (
            <Head
              key={id}
              id={id}
              sorting={sorting}
              hideNarrow={columns.columns.find((each) => each.id === id)?.hideNarrow}
              onSort={onSort}
            />
          ))}
          {columns.ladder && <th className="hide-narrow">Ladder</th>}
          <th>Finding</th>
        </tr>
      </thead>
      <tbody>
        <Spacer height={above} span={ids.length + 2} />
        {drawn.map((item) => {
          const line = lines[item.index]
          return line ? (
            <DeviceRow
              key={line.device.id}
              job={job}
              line={line}
              columns={columns}
              rowIndex={item.index + 2}
              actions={actions}
              selected={line.device.id === selectedId}
              chosen={grid.chosenIds.has(line.device.id)}
            />
          ) : null
        })}
        <Spacer height={below} span={ids.length + 2} />
      </tbody>
    </table>
  )
}

interface HeadProps {
  readonly id: DeviceColumnId
  readonly sorting: Sorting | undefined
  readonly hideNarrow: boolean | undefined
  readonly onSort: (column: DeviceColumnId) => void
}

/** The head of a column sorts by it: up, down, then as the plan has it. */
function Head({ id, sorting, hideNarrow, onSort }: HeadProps) {
  const { name } = deviceColumn(id)
  const mine = sorting?.column === id ? sorting : undefined
  return (
    <th
      className={hideNarrow ? 'hide-narrow' : ''}
      aria-sort={mine ? (mine.down ? 'descending' : 'ascending') : 'none'}
    >
      <button type="button" className="sort" title={`Sort by ${name.toLowerCase()}`} onClick={() => onSort(id)}>
        {shortHeads[id] ?? name}
        {mine && (mine.down ? <ArrowDown size={13} aria-hidden /> : <ArrowUp size={13} aria-hidden />)}
      </button>
    </th>
  )
}

/** Stands for the rows that are not drawn. */
function Spacer({ height, span }: { height: number; span: number }) {
  return height > 0 ? (
    <tr aria-hidden="true" className="spacer">
      <td colSpan={span} style={{ height }} />
    </tr>
  ) : null
}
