import type { Job } from '@calm/core/job'
import { deviceColumn, type DeviceColumnId } from '@calm/core/lineUp'
import { useVirtualizer } from '@tanstack/react-virtual'
import { useEffect, useLayoutEffect, useMemo, useRef } from 'react'
import { ColumnHead, ColumnsMenu, useColumns, type TableColumn } from '../../../ui'
import { shortHeads, type ColumnSet } from './columnSets'
import { DeviceRow, type RowActions, type ShownColumn } from './deviceRow'
import { useGridKeys } from './gridKeys'
import type { DeviceLine } from './lines'
import type { Sorting } from './shownLines'
import type { Grid } from './useGrid'
import type { LineUp } from '../useLineUp'

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
  const made = useMemo(() => columnsOf(columns), [columns])
  const table = useColumns(`devices.${columns.id}`, made, lines, (line) => line.device.id)
  const heads = table.getHeaderGroups()[0]?.headers ?? []
  const headText = new Map(made.map(({ id, head }) => [id, head]))
  // Names the columns that show: rows are drawn again only when it changes.
  const shownKey = heads.map(({ column }) => column.id).join(' ')
  const shown = useMemo((): readonly ShownColumn[] => {
    const narrow = new Set(columns.columns.filter((each) => each.hideNarrow).map((each) => each.id))
    return shownKey
      .split(' ')
      .map((id) => ({ id: id as ShownColumn['id'], hideNarrow: id === 'ladder' || narrow.has(id as DeviceColumnId) }))
  }, [columns, shownKey])
  const ids = shown.map(({ id }) => id).filter((id): id is DeviceColumnId => id !== 'ladder' && id !== 'finding')
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
    <table aria-rowcount={lines.length + 1} className="w-full table-fixed border-collapse text-row" {...keys}>
      <caption className="sr-only">Devices of {job.name}</caption>
      <colgroup>
        {heads.map(({ column }, k) => (
          <col
            key={column.id}
            className={shown[k]?.hideNarrow ? 'max-laptop:hidden' : undefined}
            style={{ width: k === heads.length - 1 ? undefined : column.getSize() }}
          />
        ))}
      </colgroup>
      <thead>
        <tr aria-rowindex={1}>
          {heads.map((header, k) => {
            const id = header.column.id as ShownColumn['id']
            const sorts = id !== 'ladder' && id !== 'finding'
            const isLast = k === heads.length - 1
            return (
              <ColumnHead<DeviceLine>
                key={id}
                table={table}
                header={header}
                name={headText.get(id) ?? id}
                last={isLast}
                className={
                  shown[k]?.hideNarrow ? 'h-6 pr-1 pb-0.75 text-left max-laptop:hidden' : 'h-6 pr-1 pb-0.75 text-left'
                }
                sorted={sorting?.column === id && (sorting.down ? 'desc' : 'asc')}
                onSort={sorts ? () => onSort(id) : undefined}
              >
                {isLast && (
                  <ColumnsMenu<DeviceLine>
                    table={table}
                    label="Columns of the devices"
                    nameOf={(each) => headText.get(each) ?? each}
                  />
                )}
              </ColumnHead>
            )
          })}
        </tr>
      </thead>
      <tbody>
        <Spacer height={above} span={heads.length} />
        {drawn.map((item) => {
          const line = lines[item.index]
          return line ? (
            <DeviceRow
              key={line.device.id}
              job={job}
              line={line}
              columns={shown}
              rowIndex={item.index + 2}
              actions={actions}
              selected={line.device.id === selectedId}
              chosen={grid.chosenIds.has(line.device.id)}
            />
          ) : null
        })}
        <Spacer height={below} span={heads.length} />
      </tbody>
    </table>
  )
}

/** The columns of a set with the tag before and the finding behind them; what a cell holds, the row knows. */
function columnsOf(set: ColumnSet): readonly TableColumn<DeviceLine>[] {
  const column = (id: string, head: string, width?: number): TableColumn<DeviceLine> => ({
    id,
    head,
    cell: () => null,
    names: id === 'tag' || id === 'finding',
    ...(width !== undefined && { width }),
  })
  const named = (id: DeviceColumnId, width: number) => column(id, shortHeads[id] ?? deviceColumn(id).name, width)
  return [
    named('tag', 86),
    ...set.columns.map(({ id, width }) => named(id, width)),
    ...(set.ladder ? [column('ladder', 'Ladder', 110)] : []),
    column('finding', 'Finding'),
  ]
}

/** Stands for the rows that are not drawn. */
function Spacer({ height, span }: { height: number; span: number }) {
  return height > 0 ? (
    <tr aria-hidden="true">
      <td colSpan={span} style={{ height }} />
    </tr>
  ) : null
}
