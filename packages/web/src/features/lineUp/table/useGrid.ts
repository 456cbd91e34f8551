import type { DeviceColumnId } from '@calm/core/lineUp'
import type { Job } from '@calm/core/job'
import { useState } from 'react'
import { newId } from '../../../api'
import { blockEdit, cellsAsText, fillDown } from './gridEdits'
import type { DeviceLine } from './lines'
import type { LineUp } from '../useLineUp'

/** Rows chosen together, from where the choice began to where it ended. */
interface Range {
  readonly anchorId: string
  readonly focusId: string
}

interface GridProps {
  readonly job: Job
  readonly lines: readonly DeviceLine[]
  readonly columns: readonly DeviceColumnId[]
  readonly lineUp: LineUp
  readonly selectedId: string | undefined
  readonly onSelect: (deviceId: string) => void
}

/** The table as a sheet of cells: which are chosen, and what the keys do with them. */
export function useGrid({ job, lines, columns, lineUp, selectedId, onSelect }: GridProps) {
  const [range, setRange] = useState<Range | undefined>(undefined)
  const [column, setColumn] = useState<DeviceColumnId | undefined>(undefined)
  const [problems, setProblems] = useState<readonly string[]>([])
  const indexOf = (id: string | undefined) => lines.findIndex((line) => line.device.id === id)
  const focusAt = range?.focusId ?? selectedId
  const [from, to] = range
    ? [indexOf(range.anchorId), indexOf(range.focusId)].sort((a, b) => a - b)
    : [indexOf(selectedId), indexOf(selectedId)]
  const chosen =
    from === undefined || to === undefined || from < 0 ? [] : lines.slice(from, to + 1).map((line) => line.device)

  /** @param fromId where the choice begins when it is extended: the row that has the focus, else the chosen one */
  const choose = (deviceId: string, extend: boolean, fromId = selectedId) => {
    setProblems([])
    if (extend && fromId !== undefined)
      return setRange((before) => ({ anchorId: before?.anchorId ?? fromId, focusId: deviceId }))
    setRange(undefined)
    onSelect(deviceId)
  }
  const chooseAll = () => {
    const [first, last] = [lines[0], lines.at(-1)]
    if (first && last) setRange({ anchorId: first.device.id, focusId: last.device.id })
  }

  /** The rows that something done in a row is meant for: those chosen with it, else itself alone. */
  const meantBy = (rowId: string | undefined) => {
    if (rowId === undefined || chosen.some((device) => device.id === rowId)) return chosen
    const line = lines[indexOf(rowId)]
    return line ? [line.device] : []
  }
  /** Puts texts into cells from one row on; all or nothing. */
  const put = (say: string, cells: readonly (readonly string[])[], at: DeviceColumnId, rowId?: string) => {
    const first = indexOf(meantBy(rowId)[0]?.id)
    if (first < 0) return
    const edit = blockEdit(
      job,
      { devices: lines.slice(first).map((line) => line.device), columns: columns.slice(columns.indexOf(at)), cells },
      newId,
    )
    setProblems(edit.problems)
    if (edit.changes.length > 0) lineUp.attempt(lineUp.change(say, edit.changes))
  }
  const fill = (at: DeviceColumnId) => {
    const [first] = chosen
    if (!first || chosen.length < 2)
      return setProblems(['Choose two or more rows first: Shift with the arrows, or with a click.'])
    const text = cellsAsText(job, [first], [at])
    put(
      `${chosen.length} rows filled down.`,
      fillDown(at, text, chosen.length).map((each) => [each]),
      at,
    )
  }
  /** One text into the cells of all rows that are meant. */
  const setAll = (at: DeviceColumnId, text: string, rowId?: string) => {
    const meant = meantBy(rowId)
    const say = meant.length === 1 ? `${meant[0]?.tag} changed.` : `${meant.length} rows changed.`
    put(
      say,
      meant.map(() => [text]),
      at,
      rowId,
    )
  }

  return {
    chosen,
    range,
    /** Ids of the rows that are chosen together; empty while only one is. */
    chosenIds: new Set(range ? chosen.map((device) => device.id) : []),
    column,
    setColumn,
    focusAt,
    indexOf,
    choose,
    chooseAll,
    clear: () => setRange(undefined),
    put,
    fill,
    setAll,
    problems,
    forget: () => setProblems([]),
    copy: (at: DeviceColumnId, rowId?: string) => cellsAsText(job, meantBy(rowId), [at]),
    meantBy,
  }
}

export type Grid = ReturnType<typeof useGrid>
