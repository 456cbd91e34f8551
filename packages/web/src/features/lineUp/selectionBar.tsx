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
        <p className="undo chosen-bar" role="status">
          <b>{count} rows</b>
          {grid.column && (
            <button type="button" className="quiet" onClick={() => grid.column && grid.fill(grid.column)}>
              Fill down {deviceColumn(grid.column).name.toLowerCase()}
            </button>
          )}
          <button type="button" className="quiet" onClick={onPropose}>
            Propose addresses
          </button>
          <button type="button" className="plain" onClick={onRemove}>
            Remove them
          </button>
          <span className="note" title="While a cell of them is edited">
            Ctrl Enter sets all
          </span>
          <button type="button" className="plain" onClick={grid.clear}>
            One row
          </button>
        </p>
      )}
      {grid.problems.length > 0 && (
        <div className="undo" role="alert">
          <ul>
            {grid.problems.slice(0, 6).map((problem) => (
              <li key={problem}>{problem}</li>
            ))}
            {grid.problems.length > 6 && <li>and {grid.problems.length - 6} more</li>}
          </ul>
          <button type="button" className="plain" onClick={grid.forget}>
            Close
          </button>
        </div>
      )}
    </>
  )
}
