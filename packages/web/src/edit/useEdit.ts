import { changesBack, wayBackOf, type Change, type RowFields } from '@calm/core/changes'
import type { Job, RowTable } from '@calm/core/job'
import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { newId, ProblemError, useSendChanges } from '../api'
import { ledOnBy, onTop } from './ledOn'
import { historyNow, inTurn, remember, stepBack, stepForth, useHistory } from './history'

/** A row as a change names it: by its id, in the version that was looked at. */
export interface NamedRow {
  readonly id: string
  readonly version: number
}

/** Everything that is changed in a job, at whatever stage: sent as a list, on the screen at once, with its way back. */
export function useEdit(job: Job) {
  const { mutateAsync } = useSendChanges(job.id)
  const client = useQueryClient()
  const history = useHistory(job.id)
  const [problem, setProblem] = useState<unknown>(undefined)
  /** The job as it is at this moment, which may be later than the one that is drawn. */
  const now = () => client.getQueryData<Job>(['job', job.id]) ?? job

  /** Changes that belong together, with how they are called. */
  const change = (say: string, changes: readonly Change[]) =>
    changes.length === 0 ? Promise.resolve() : inTurn(job.id, () => changeNow(say, changes))
  const changeNow = async (say: string, meant: readonly Change[]) => {
    const changes = onTop(meant)
    const back = wayBackOf(now(), changes)
    await mutateAsync(changes).catch((reason: unknown) => {
      throw changes.length <= FEW ? atFields(reason) : reason
    })
    ledOnBy(changes)
    remember(job.id, { say, back })
  }

  const set = (say: string, table: RowTable, row: NamedRow, fields: RowFields) =>
    change(say, [{ op: 'set', table, id: row.id, version: row.version, fields }])
  const addRow = (say: string, table: RowTable, fields: RowFields) =>
    change(say, [{ op: 'add', table, id: newId(), fields }])
  const removeRow = (say: string, table: RowTable, row: NamedRow) =>
    change(say, [{ op: 'remove', table, id: row.id, version: row.version }])

  /** The step before, or the one that was taken back, on the job as it stands now. */
  const travel = (direction: 'back' | 'forth') => inTurn(job.id, () => travelNow(direction))
  const travelNow = async (direction: 'back' | 'forth') => {
    const { done, undone } = historyNow(job.id)
    const entry = (direction === 'back' ? done : undone).at(-1)
    const step = direction === 'back' ? stepBack : stepForth
    if (!entry) return
    const before = now()
    const changes = changesBack(before, entry.back)
    if (!changes.ok) {
      // It cannot be taken back any more; what stands before it can.
      step(job.id, undefined)
      const { what, expected, found } = changes.refusal
      throw new ProblemError(409, [{ what, where: '', expected, found }])
    }
    const other = { say: entry.say, back: wayBackOf(before, changes.value) }
    await mutateAsync(changes.value)
    ledOnBy(changes.value)
    step(job.id, other)
  }

  /** Does something that has no field of its own to tell its trouble in; the page tells it. */
  const attempt = (work: Promise<unknown>) => void work.then(() => setProblem(undefined), setProblem)

  return {
    now,
    change,
    set,
    addRow,
    removeRow,
    undo: () => travel('back'),
    redo: () => travel('forth'),
    last: history.done.at(-1),
    next: history.undone.at(-1),
    problem,
    forget: () => setProblem(undefined),
    attempt,
  }
}

export type JobEdit = ReturnType<typeof useEdit>

/** As many changes as a form makes: a row with its port. */
const FEW = 2

/** Problems of a form's changes at the fields of the form: a person did not send a list. */
function atFields(reason: unknown): unknown {
  if (!(reason instanceof ProblemError)) return reason
  const problems = reason.problems.map((problem) => ({
    ...problem,
    where: problem.where.replace(/^changes\[\d+\]\.(fields\.)?/, ''),
  }))
  return new ProblemError(reason.status, problems, reason.current)
}
