import { useMemo } from 'react'
import { cn } from '../cn'
import { ColumnHead } from './columnHead'
import { ColumnsMenu } from './columnsMenu'
import { useColumns, type TableColumn } from './useColumns'

interface DataTableProps<Row> {
  /** Under this name its columns are remembered. */
  readonly name: string
  /** What the rows are; spoken, not shown. */
  readonly caption: string
  readonly columns: readonly TableColumn<Row>[]
  readonly rows: readonly Row[] | undefined
  readonly keyOf: (row: Row) => string
  readonly className?: string
  readonly rowClass?: (row: Row) => string | undefined
}

const narrow = (column: { readonly hideNarrow?: boolean } | undefined) =>
  column?.hideNarrow ? 'max-tablet:hidden' : undefined

const cellClass = 'border-t border-rule py-1.5 pr-3 text-left align-top font-[inherit]'

/**
 * A table of rows: columns are dragged wider, hidden, sorted by; how somebody has set them up is remembered. For lists
 * of thousands see the line-up, which draws only the rows in sight.
 */
export function DataTable<Row>(props: DataTableProps<Row>) {
  const { name, caption, columns, rows, keyOf, className, rowClass } = props
  const table = useColumns(name, columns, rows, keyOf)
  const byId = useMemo(() => new Map(columns.map((column) => [column.id, column])), [columns])
  const heads = table.getHeaderGroups()[0]?.headers ?? []
  const widths = table.state.columnSizing
  const isSized = heads.some(({ column }) => widths[column.id] !== undefined)
  const widthOf = (id: string) => widths[id] ?? byId.get(id)?.width
  const least = isSized ? heads.reduce((sum, { column }) => sum + (widthOf(column.id) ?? 120), 0) : undefined
  return (
    <table
      className={cn('w-full border-collapse text-row', isSized && 'table-fixed', className)}
      style={{ minWidth: least }}
    >
      <caption className="sr-only">{caption}</caption>
      <colgroup>
        {heads.map(({ column }, k) => (
          <col
            key={column.id}
            className={narrow(byId.get(column.id))}
            style={{ width: k === heads.length - 1 ? undefined : widthOf(column.id) }}
          />
        ))}
      </colgroup>
      <thead>
        <tr>
          {heads.map((header, k) => {
            const column = byId.get(header.column.id)
            const isLast = k === heads.length - 1
            return (
              <ColumnHead<Row>
                key={header.id}
                table={table}
                header={header}
                name={column?.head ?? ''}
                quiet={column?.quietHead ?? false}
                last={isLast}
                className={cn('py-1 pr-3 text-left', narrow(column))}
                sorted={header.column.getIsSorted()}
                onSort={column?.sort && (() => header.column.toggleSorting())}
              >
                {isLast && columns.length > 2 && (
                  <ColumnsMenu<Row>
                    table={table}
                    label={`Columns: ${caption}`}
                    nameOf={(id) => byId.get(id)?.head ?? id}
                  />
                )}
              </ColumnHead>
            )
          })}
        </tr>
      </thead>
      <tbody>
        {table.getRowModel().rows.map((row) => (
          <tr key={row.id} className={rowClass?.(row.original)}>
            {row.getVisibleCells().map((cell) => {
              const column = byId.get(cell.column.id)
              const classes = cn(
                cellClass,
                isSized && 'overflow-hidden text-ellipsis',
                column?.className,
                narrow(column),
              )
              return column?.names ? (
                <th key={cell.id} scope="row" className={cn(classes, 'font-heavy')}>
                  {column.cell(row.original)}
                </th>
              ) : (
                <td key={cell.id} className={classes}>
                  {column?.cell(row.original)}
                </td>
              )
            })}
          </tr>
        ))}
      </tbody>
    </table>
  )
}
