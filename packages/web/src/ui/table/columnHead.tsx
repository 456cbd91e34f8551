import { ArrowDown, ArrowUp } from 'lucide-react'
import { flushSync } from 'react-dom'
import { cn } from '../cn'
import { MIN_WIDTH, type RowHeader, type RowTable } from './useColumns'

/** How far a key moves the edge of a column, px. */
const KEY_STEP = 16

interface HeadProps<Row> {
  readonly table: RowTable<Row>
  readonly header: RowHeader<Row>
  readonly name: string
  readonly quiet?: boolean
  readonly className?: string
  /** The last column takes what the others leave. */
  readonly last: boolean
  readonly sorted: false | 'asc' | 'desc'
  readonly onSort: (() => void) | undefined
  readonly children?: React.ReactNode
}

/**
 * The head of a column: a press sorts by it, its right edge is dragged to make it wider, a double click gives it back
 * the width it had. By keys: Enter sorts, Alt with Left or Right moves the edge.
 */
export function ColumnHead<Row>(props: HeadProps<Row>) {
  const { table, header, name, quiet, className, last, sorted, onSort, children } = props
  const widen = (head: HTMLElement, by: number) => {
    const widths = widthsNow(head)
    const now = widths[header.column.id] ?? MIN_WIDTH
    table.setColumnSizing({ ...widths, [header.column.id]: Math.max(MIN_WIDTH, now + by) })
  }
  const onKeyDown = (event: React.KeyboardEvent<HTMLElement>) => {
    const by = { ArrowLeft: -KEY_STEP, ArrowRight: KEY_STEP }[event.key]
    const head = event.currentTarget.closest('th')
    if (by === undefined || !event.altKey || !head || last) return
    event.preventDefault()
    event.stopPropagation()
    widen(head, by)
  }
  const words = (
    <>
      <span className={cn(quiet && 'sr-only', 'overflow-hidden text-ellipsis')}>{name}</span>
      {sorted && (sorted === 'desc' ? <ArrowDown size={13} aria-hidden /> : <ArrowUp size={13} aria-hidden />)}
    </>
  )
  return (
    <th
      scope="col"
      data-column={header.column.id}
      className={cn('relative align-bottom text-note text-ink-soft', className)}
      aria-sort={onSort && (sorted ? (sorted === 'desc' ? 'descending' : 'ascending') : 'none')}
    >
      <span className="flex min-h-6 items-center gap-1">
        {onSort ? (
          <button
            type="button"
            className="inline-flex min-w-0 items-center gap-0.75 hover:text-ink hover:underline"
            onClick={onSort}
            onKeyDown={onKeyDown}
          >
            {words}
          </button>
        ) : (
          words
        )}
        {children}
      </span>
      {!last && (
        <span
          aria-hidden="true"
          className="absolute top-0 right-0 bottom-0 w-2 cursor-col-resize touch-none border-r-2 border-transparent select-none hover:border-ink-faint active:border-ink"
          onMouseDown={(event) => {
            const head = event.currentTarget.closest('th')
            if (!head) return
            // From here on every column has the width at which it stands.
            flushSync(() => table.setColumnSizing(widthsNow(head)))
            header.getResizeHandler()(event.nativeEvent)
          }}
          onTouchStart={(event) => header.getResizeHandler()(event.nativeEvent)}
          onDoubleClick={() => header.column.resetSize()}
        />
      )}
    </th>
  )
}

/** The width at which each column but the last stands now, px. */
function widthsNow(head: HTMLElement): Record<string, number> {
  const heads = [...(head.parentElement?.querySelectorAll<HTMLElement>('[data-column]') ?? [])]
  return Object.fromEntries(heads.slice(0, -1).map((each) => [each.dataset['column'] ?? '', each.offsetWidth]))
}
