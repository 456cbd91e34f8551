import { Button, tip } from '../../../ui'
import { deviceColumn } from '@calm/core/lineUp'
import type { Grid } from './useGrid'

interface BarProps {
  readonly grid: Grid
  readonly onPropose: () => void
  readonly onRemove: () => void
}

/** What can be done with several rows at once, and what could not be done. */
export function SelectionBar({ grid, onPropose, onRemove }: BarProps) {
  const count = grid.chosenIds.size
  return (
    <>
      {count > 1 && (
        <p
          className="sticky bottom-0 z-6 mt-2 mr-3 flex items-center gap-3 rounded-sm border-[1.5px] border-ink bg-sheet px-3 py-2 text-row whitespace-nowrap"
          role="status"
        >
          <b>{count} rows</b>
          {grid.column && (
            <Button onClick={() => grid.column && grid.fill(grid.column)}>
              Fill down {deviceColumn(grid.column).name.toLowerCase()}
            </Button>
          )}
          <Button onClick={onPropose}>Propose addresses</Button>
          <Button look="plain" onClick={onRemove}>
            Remove them
          </Button>
          <span className="note" {...tip('While a cell of them is edited')}>
            Ctrl Enter sets all
          </span>
          <Button look="plain" onClick={grid.clear}>
            One row
          </Button>
        </p>
      )}
      {grid.problems.length > 0 && (
        <div
          className="sticky bottom-0 z-6 mt-2 mr-3 flex items-center gap-3 rounded-sm border-[1.5px] border-ink bg-sheet px-3 py-2 text-row"
          role="alert"
        >
          <ul>
            {grid.problems.slice(0, 6).map((problem) => (
              <li key={problem}>{problem}</li>
            ))}
            {grid.problems.length > 6 && <li>and {grid.problems.length - 6} more</li>}
          </ul>
          <Button look="plain" onClick={grid.forget}>
            Close
          </Button>
        </div>
      )}
    </>
  )
}
