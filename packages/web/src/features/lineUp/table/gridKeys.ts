import type { DeviceColumnId } from '@calm/core/lineUp'
import { useEffect } from 'react'
import type { DeviceLine } from './lines'
import type { Grid } from './useGrid'

interface Keys {
  readonly grid: Grid
  readonly lines: readonly DeviceLine[]
  readonly columns: readonly DeviceColumnId[]
}

/** Rows that a page key jumps over. */
const PAGE = 12

const steps: Readonly<Record<string, readonly [rows: number, columns: number]>> = {
  ArrowDown: [1, 0],
  ArrowUp: [-1, 0],
  ArrowRight: [0, 1],
  ArrowLeft: [0, -1],
  PageDown: [PAGE, 0],
  PageUp: [-PAGE, 0],
}

/** A row scrolled into sight is drawn a little later. */
const FRAMES = 8

function focusCell(deviceId: string, column: DeviceColumnId, frames = FRAMES): void {
  const cell = document.querySelector<HTMLElement>(`[data-device="${deviceId}"] [data-col="${column}"]`)
  const button = cell?.querySelector<HTMLElement>('[data-edit]')
  if (button) button.focus({ preventScroll: true })
  else if (!cell && frames > 0) requestAnimationFrame(() => focusCell(deviceId, column, frames - 1))
}

/** What the keys do while a cell has the focus: go from cell to cell, choose rows, fill down, clear, copy and paste. */
export function useGridKeys({ grid, lines, columns }: Keys) {
  const cellOf = (target: EventTarget | null): DeviceColumnId | undefined => {
    if (!(target instanceof HTMLElement) || !('edit' in target.dataset)) return undefined
    return target.closest<HTMLElement>('[data-col]')?.dataset.col as DeviceColumnId | undefined
  }
  const rowOf = (target: EventTarget | null) =>
    target instanceof HTMLElement ? target.closest<HTMLElement>('[data-device]')?.dataset.device : undefined

  const go = (
    from: number,
    column: DeviceColumnId,
    [byRows, byColumns]: readonly [number, number],
    extend: boolean,
  ) => {
    const row = Math.min(lines.length - 1, Math.max(0, from + byRows))
    const at = Math.min(columns.length - 1, Math.max(0, columns.indexOf(column) + byColumns))
    const [line, next] = [lines[row], columns[at]]
    if (!line || !next) return
    if (byRows !== 0) grid.choose(line.device.id, extend, lines[from]?.device.id)
    focusCell(line.device.id, next)
  }

  const onKeyDown = (event: React.KeyboardEvent) => {
    const column = cellOf(event.target)
    if (column === undefined) return
    const step = steps[event.key]
    const isCommand = event.ctrlKey || event.metaKey
    if (step && !isCommand && !event.altKey) {
      event.preventDefault()
      return go(grid.indexOf(rowOf(event.target)), column, step, event.shiftKey)
    }
    if (isCommand && (event.key === 'Home' || event.key === 'End')) {
      event.preventDefault()
      return go(event.key === 'Home' ? 0 : lines.length - 1, column, [0, 0], false)
    }
    if (isCommand && event.key.toLowerCase() === 'd') {
      event.preventDefault()
      return grid.fill(column)
    }
    if (isCommand && event.key.toLowerCase() === 'a') {
      event.preventDefault()
      return grid.chooseAll()
    }
    if (event.key === 'Delete' && column !== 'tag') {
      event.preventDefault()
      return grid.setAll(column, '', rowOf(event.target))
    }
    if (event.key === 'Escape') grid.clear()
  }
  const onCopy = (event: ClipboardEvent) => {
    const column = cellOf(document.activeElement)
    if (column === undefined || !document.getSelection()?.isCollapsed) return
    event.preventDefault()
    event.clipboardData?.setData('text/plain', grid.copy(column, rowOf(document.activeElement)))
  }
  const onPaste = (event: ClipboardEvent) => {
    const column = cellOf(document.activeElement)
    const text = (event.clipboardData?.getData('text/plain') ?? '').replace(/\r?\n$/, '')
    if (column === undefined || text === '') return
    event.preventDefault()
    const cells = text.split(/\r?\n/).map((line) => line.split('\t'))
    // One value goes into all chosen rows, as it does in a spreadsheet.
    const row = rowOf(document.activeElement)
    if (cells.length === 1 && cells[0]?.length === 1) return grid.setAll(column, text, row)
    grid.put(`${cells.length} row${cells.length === 1 ? '' : 's'} pasted.`, cells, column, row)
  }
  useClipboard(onCopy, onPaste)
  const onFocus = (event: React.FocusEvent) => {
    const column = cellOf(event.target)
    if (column !== undefined) grid.setColumn(column)
  }
  // With Shift a click chooses rows; it must not mark their text as well.
  const onMouseDown = (event: React.MouseEvent) => {
    if (event.shiftKey) event.preventDefault()
  }
  return { onKeyDown, onFocus, onMouseDown }
}

/** A browser tells of copying to the page as a whole, unless it is in a field. */
function useClipboard(onCopy: (event: ClipboardEvent) => void, onPaste: (event: ClipboardEvent) => void): void {
  useEffect(() => {
    document.addEventListener('copy', onCopy)
    document.addEventListener('paste', onPaste)
    return () => {
      document.removeEventListener('copy', onCopy)
      document.removeEventListener('paste', onPaste)
    }
  })
}
