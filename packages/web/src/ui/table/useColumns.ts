import {
  columnResizingFeature,
  columnSizingFeature,
  columnVisibilityFeature,
  createSortedRowModel,
  rowSortingFeature,
  tableFeatures,
  useTable,
  type ColumnDef,
  type Header,
  type ReactTable,
} from '@tanstack/react-table'
import { useMemo, useRef } from 'react'
import { useRememberedLayout } from './remembered'

export const features = tableFeatures({
  columnSizingFeature,
  columnResizingFeature,
  columnVisibilityFeature,
  rowSortingFeature,
  sortedRowModel: createSortedRowModel(),
})

/** One column of a table of rows. */
export interface TableColumn<Row> {
  readonly id: string
  /** Its name, in the head and in the menu of columns. */
  readonly head: string
  readonly cell: (row: Row) => React.ReactNode
  /** By what its rows are sorted; a column without it does not sort. */
  readonly sort?: (row: Row) => string | number
  /** What its cells look like beside what all cells do. */
  readonly className?: string
  /** Before anybody changed it, in px; left out, the column takes its share. */
  readonly width?: number
  /** The column that names the row: it is a head of its own, and it always shows. */
  readonly names?: boolean
  /** Left out where the window is narrow; what it shows stands elsewhere too. */
  readonly hideNarrow?: boolean
  /** Has nothing to be read in its head. */
  readonly quietHead?: boolean
}

/** A shared empty list, so that a table without rows is not computed anew. */
const none: readonly never[] = []

/** Narrower than this nothing can be read, and the edge could not be taken hold of again. */
export const MIN_WIDTH = 32

export type RowTable<Row> = ReactTable<typeof features, Row & object>
export type RowHeader<Row> = Header<typeof features, Row & object, unknown>

/** The columns of a table: how wide, which shown, sorted by which; widths and what is hidden are remembered. */
export function useColumns<Row>(
  name: string,
  columns: readonly TableColumn<Row>[],
  rows: readonly Row[] | undefined,
  keyOf: (row: Row) => string,
): RowTable<Row> {
  const [layout, keep] = useRememberedLayout(name)
  const latest = useRef(layout)
  latest.current = layout
  const definitions = useMemo(
    () =>
      columns.map((column): ColumnDef<typeof features, Row & object> => {
        const { sort } = column
        return {
          id: column.id,
          minSize: MIN_WIDTH,
          ...(column.width !== undefined && { size: column.width }),
          enableHiding: column.names !== true,
          enableSorting: sort !== undefined,
          // Numbers in order; texts as people read them, with the numbers in them in order.
          ...(sort && {
            accessorFn: sort,
            sortFn: (a, b) => compare(sort(a.original), sort(b.original)),
          }),
        } as ColumnDef<typeof features, Row & object>
      }),
    [columns],
  )
  return useTable<typeof features, Row & object>({
    features,
    columns: definitions,
    data: (rows ?? none) as readonly (Row & object)[],
    getRowId: keyOf,
    columnResizeMode: 'onChange',
    state: { columnSizing: layout.widths, columnVisibility: layout.shown },
    onColumnSizingChange: (next) => {
      const widths = typeof next === 'function' ? next({ ...latest.current.widths }) : next
      latest.current = { ...latest.current, widths }
      keep(latest.current)
    },
    onColumnVisibilityChange: (next) => {
      const shown = typeof next === 'function' ? next({ ...latest.current.shown }) : next
      latest.current = { ...latest.current, shown }
      keep(latest.current)
    },
  })
}

const collator = new Intl.Collator('en', { numeric: true })
const compare = (a: string | number, b: string | number): number =>
  typeof a === 'number' && typeof b === 'number' ? a - b : collator.compare(String(a), String(b))
