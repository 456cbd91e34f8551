import { setImmediate } from 'node:timers/promises'
import {
  applyRun,
  checkChange,
  checkReturn,
  ownerIdOf,
  rowsById,
  runFrom,
  type AddChange,
  type Change,
  type ChangeRefusal,
} from '@calm/core/changes'
import { ownerField, rowKinds, rowTables, type AnyRow, type Job, type RowTable } from '@calm/core/job'
import { groupedBy } from '@calm/core/units'
import { insertRows, toStored, updateRow } from '../db'
import { breather } from './breathe'
import { calledInLog, differencesInLog, summaryOf } from './changeWords'
import { readJob } from './readJob'
import { notFound, Refused } from './refusals'
import { bringBack } from './rowsBack'
import type { Tx } from './store'

/** Above this many, one line of the log tells them all. */
const LOGGED_ONE_BY_ONE = 25
/** SQLite takes a limited number of values in one statement. */
const ROWS_AT_ONCE = 50

/**
 * Carries out changes of a job in their order; all of them, or none. What comes of them is computed by core, by the same
 * function as on the page; the database follows.
 */
export async function applyChangeList(tx: Tx, jobId: string, changes: readonly Change[]): Promise<void> {
  let job = await tx.job(jobId)
  const before = job
  for (let k = 0; k < changes.length;) {
    const run = runFrom(changes, k)
    job = await carryOut(tx, job, run, k)
    k += run.length
    tx.keep(job)
  }
  if (changes.length > LOGGED_ONE_BY_ONE) await tx.log(jobId, summaryOf(changes), changes)
  else for (const change of changes) await logOne(tx, jobId, before, job, change)
}

async function carryOut(tx: Tx, job: Job, run: readonly Change[], from: number): Promise<Job> {
  const isRestore = (change: Change) => change.op === 'restore'
  const times = new Map<string, number>()
  for (const [k, change] of run.entries()) {
    const key = `${change.table} ${change.id}`
    const again = times.get(key) ?? 0
    times.set(key, again + 1)
    within(from + k, () => requireVersion(job, change, again))
  }
  const next = applyRun(job, run, { who: tx.who, at: tx.now })
  const breathe = breather()
  // From the end: of two rows that want one name the later one is refused.
  for (const [k, change] of [...run.entries()].reverse()) {
    within(from + k, () => refuse(checkChange(next, change)))
    await breathe()
  }
  await writeAdds(tx, job.id, run)
  for (const [k, change] of run.entries()) {
    if (change.op === 'set') await writeSet(tx, change)
    else if (change.op === 'remove') await writeRemoved(tx, change)
    else if (isRestore(change)) await restored(tx, job, change, from + k)
    await breathe()
  }
  if (!run.some(isRestore)) return next
  // Rows that come back bring with them what hung on them: that is known to the database alone.
  return readJob(tx.manager, job.id)
}

/** Problems are told at the place of their change in the list. */
function within<T>(index: number, work: () => T): T {
  try {
    return work()
  } catch (reason) {
    throw reason instanceof Refused ? reason.within(`changes[${index}].fields`) : reason
  }
}

function refuse(refusal: ChangeRefusal | undefined): void {
  if (!refusal) return
  const { field, what, expected, found } = refusal
  throw new Refused(422, [{ what, where: field, expected, found }])
}

/**
 * The row must be there, in the version that was looked at.
 * @param again how many changes of the same row come before this one
 */
function requireVersion(job: Job, change: Change, again: number): void {
  const { table, id } = change
  if (change.op === 'restore') return
  if (change.op === 'add') {
    if (rowsById(job, table).has(id))
      throw new Refused(409, [
        {
          what: `This ${rowKinds[table].name} is there already.`,
          where: 'id',
          expected: 'an id of its own',
          found: id,
        },
      ])
    return
  }
  const row = table === 'job' && id === job.id ? (job as object as AnyRow) : rowsById(job, table).get(id)?.row
  if (!row || (table === 'job' && id !== job.id)) throw notFound(rowKinds[table].name, id)
  const version = row.version + again
  if (version === change.version) return
  const what = 'Somebody else saved this meanwhile.'
  throw new Refused(409, [{ what, where: 'version', expected: String(version), found: String(change.version) }], row)
}

async function writeAdds(tx: Tx, jobId: string, run: readonly Change[]): Promise<void> {
  const adds = groupedBy(
    run.filter((change): change is AddChange => change.op === 'add'),
    (change) => change.table,
  )
  for (const table of rowTables) {
    const rows = (adds.get(table) ?? []).map((change) => storedRow(tx, jobId, change))
    for (let k = 0; k < rows.length; k += ROWS_AT_ONCE) {
      await insertRows(tx.manager, table, rows.slice(k, k + ROWS_AT_ONCE))
      if (rows.length > ROWS_AT_ONCE) await setImmediate()
    }
  }
}

function storedRow(tx: Tx, jobId: string, change: AddChange) {
  const kind = rowKinds[change.table]
  const owner = ownerField(kind)
  return {
    ...toStored(change.table, change.fields),
    id: change.id,
    ...(owner ? { [owner]: ownerIdOf(change) } : { jobId }),
    ...(kind.stamped && { who: tx.who, at: tx.now }),
    version: 1,
    removedAt: null,
  }
}

async function writeSet(tx: Tx, { table, id, version, fields }: Extract<Change, { op: 'set' }>): Promise<void> {
  await updateRow(tx.manager, table, id, { ...toStored(table, fields), version: version + 1 })
}

/** Taken out of sight, not out of the database: one action brings it back with everything it had. */
async function writeRemoved(tx: Tx, { table, id, version }: Extract<Change, { op: 'remove' }>): Promise<void> {
  await updateRow(tx.manager, table, id, { removedAt: tx.now, version: version + 1 })
}

async function restored(tx: Tx, job: Job, { table, id }: Change, index: number): Promise<void> {
  const row = await bringBack(tx, job.id, table, id)
  const now = await readJob(tx.manager, job.id)
  within(index, () => refuse(checkReturn(now, table, row)))
}

async function logOne(tx: Tx, jobId: string, before: Job, after: Job, change: Change): Promise<void> {
  const { table, id } = change
  const [was, is] = [rowsById(before, table).get(id), rowsById(after, table).get(id)]
  const placed = is ?? was
  const called = calledInLog(table as RowTable, placed)
  const words = { set: '', add: ' added', remove: ' removed', restore: ' brought back' }
  if (change.op === 'set')
    return tx.log(jobId, `${called}: ${differencesInLog(table, was?.row ?? {}, change.fields)}`, change.fields)
  if (change.op === 'add' && table === 'term')
    return tx.log(jobId, `${called}: ${differencesInLog(table, {}, { text: change.fields.text })}`, change.fields)
  return tx.log(jobId, `${called}${words[change.op]}`, change.op === 'add' ? change.fields : {})
}
