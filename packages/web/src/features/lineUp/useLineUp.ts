import type { DeviceFields, NetworkFields, PortFields } from '@calm/contract'
import type { Edit, Finding, Fix } from '@calm/core/findings'
import { blankDevice, blankPort, type Device, type Job, type Network, type Port } from '@calm/core/job'
import {
  applyChanges,
  changesBack,
  nextPosition,
  rowIn,
  wayBackOf,
  type Change,
  type RowFields,
  type RowTable,
} from '@calm/core/lineUp'
import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { newId, ProblemError, useJobChange } from '../../api'
import { historyNow, inTurn, remember, stepBack, stepForth, useHistory } from './history'

/** Fields of findings' fixes that are numbers in the job. */
const NUMBERS = new Set(['prefix', 'unitId', 'node', 'startUpSeconds', 'handsOnSeconds'])

/** Everything that can be done in the line-up, each with its way back. */
export function useLineUp(job: Job) {
  const { mutateAsync } = useJobChange(job.id)
  const client = useQueryClient()
  const history = useHistory(job.id)
  const [problem, setProblem] = useState<unknown>(undefined)
  /** The job as it is at this moment, which may be later than the one that is drawn. */
  const now = () => client.getQueryData<Job>(['job', job.id]) ?? job

  const send = (changes: readonly Change[]) =>
    mutateAsync({
      method: 'POST',
      path: `/jobs/${job.id}/changes`,
      body: { changes },
      foresee: (before) => applyChanges(before, changes),
      isWhole: changes.every(isForeseen),
    })

  /** Changes that belong together, with how they are called. */
  const change = (say: string, changes: readonly Change[]) =>
    changes.length === 0 ? Promise.resolve() : inTurn(job.id, () => changeNow(say, changes))
  const changeNow = async (say: string, changes: readonly Change[]) => {
    const back = wayBackOf(now(), changes)
    await send(changes).catch((reason: unknown) => {
      throw changes.length <= FEW ? atFields(reason) : reason
    })
    remember(job.id, { say, back })
  }

  const set = (
    say: string,
    table: RowTable,
    row: { readonly id: string; readonly version: number },
    fields: RowFields,
  ) => change(say, [{ op: 'set', table, id: row.id, version: row.version, fields }])
  const addRow = (say: string, table: RowTable, fields: RowFields) =>
    change(say, [{ op: 'add', table, id: newId(), fields }])
  const removeRow = (say: string, table: RowTable, row: { readonly id: string; readonly version: number }) =>
    change(say, [{ op: 'remove', table, id: row.id, version: row.version }])

  const editPort = (device: Device, port: Port, fields: Partial<PortFields>) =>
    set(`${device.tag} changed.`, 'port', port, fields)
  const editDevice = (device: Device, fields: Partial<DeviceFields>) =>
    set(`${fields.tag ?? device.tag} changed.`, 'device', device, fields)
  const remove = (device: Device) => removeRow(`${device.tag} removed.`, 'device', device)
  const removeNetwork = (network: Network) => removeRow(`Network ${network.name} removed.`, 'network', network)
  const editNetwork = (network: Network, fields: Partial<NetworkFields>) =>
    set(`Network ${fields.name ?? network.name} changed.`, 'network', network, fields)
  const addNetwork = (fields: NetworkFields) =>
    addRow(`Network ${fields.name} added.`, 'network', { school: 'static', ...fields })

  /** A new device, with its port where it has one. */
  const addDevice = ({ port, ...fields }: DeviceFields & { readonly port: PortFields | null }) => {
    const id = newId()
    return change(`${fields.tag} added.`, [
      { op: 'add', table: 'device', id, fields: { ...blankDevice, position: nextPosition(now()), ...fields } },
      ...(port
        ? [{ op: 'add', table: 'port', id: newId(), fields: { ...blankPort, ...port, deviceId: id } } as const]
        : []),
    ])
  }

  const beginHandshake = (ends: { readonly controllerId: string; readonly deviceId: string }) =>
    mutateAsync({ method: 'POST', path: `/jobs/${job.id}/handshakes`, body: ends })

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
    await send(changes.value)
    step(job.id, other)
  }

  /** A fix of a finding: changes of the plan, all of them or none. */
  const applyFix = (fix: Fix) =>
    change(
      `${fix.label}: done.`,
      fix.edits.flatMap((edit) => changeOf(now(), edit) ?? []),
    )

  const accept = (finding: Finding, reason: string) =>
    addRow(`"${finding.title}" accepted.`, 'acceptance', {
      rule: finding.rule,
      subjectId: finding.subject.id,
      found: finding.found,
      reason,
    })

  /** Does something that has no field of its own to tell its trouble in; the page tells it. */
  const attempt = (work: Promise<unknown>) => void work.then(() => setProblem(undefined), setProblem)

  return {
    change,
    set,
    addRow,
    removeRow,
    editPort,
    editDevice,
    editNetwork,
    removeNetwork,
    remove,
    addNetwork,
    addDevice,
    beginHandshake,
    undo: () => travel('back'),
    redo: () => travel('forth'),
    applyFix,
    accept,
    last: history.done.at(-1),
    next: history.undone.at(-1),
    problem,
    forget: () => setProblem(undefined),
    attempt,
  }
}

export type LineUp = ReturnType<typeof useLineUp>

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

/**
 * Whether the page knows all that comes of a change. A row that is brought back, a device that takes its handshakes with
 * it, who accepted a finding when: the server alone knows these.
 */
function isForeseen({ op, table }: Change): boolean {
  if (op === 'restore' || table === 'acceptance') return false
  return op !== 'remove' || table === 'port' || table === 'node'
}

function changeOf(job: Job, { subject, field, value }: Edit): Change | undefined {
  if (subject.kind === 'laptop' || subject.kind === 'handshake') return undefined
  const row = rowIn(job, subject.kind, subject.id)
  if (!row) return undefined
  const typed = value !== null && NUMBERS.has(field) ? Number(value) : value
  return { op: 'set', table: subject.kind, id: subject.id, version: row.version, fields: { [field]: typed } }
}
