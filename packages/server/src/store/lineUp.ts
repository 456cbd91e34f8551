import { randomUUID } from 'node:crypto'
import { addsFrom, type AddChange, type Change, type RowTable } from '@calm/core/lineUp'
import { In, IsNull, type ObjectLiteral, type QueryDeepPartialEntity } from 'typeorm'
import { devices } from '../db'
import { notFound, Refused, refusedBecause } from './refusals'
import { rowKinds, stored, type StoredFields } from './rowKinds'
import { changeRow, differences, removedRow, rowById, type Versioned } from './rows'
import type { Tx } from './store'

/** Above this many, one line of the log tells them all. */
const LOGGED_ONE_BY_ONE = 25
const ROWS_AT_ONCE = 100

/** Fields that a schema let through, for a table that is chosen at run time. */
type Values = QueryDeepPartialEntity<Versioned & ObjectLiteral>

/** Carries out changes of a job in their order; all of them, or none. Those of one kind that follow each other go together. */
export async function applyChangeList(tx: Tx, jobId: string, changes: readonly Change[]): Promise<void> {
  await rowById(tx, rowKinds.job.table, jobId)
  const many = changes.length > LOGGED_ONE_BY_ONE
  const log = many ? async () => undefined : (what: string, detail?: unknown) => tx.log(jobId, what, detail)
  for (let k = 0; k < changes.length;) {
    const run = addsFrom(changes, k)
    try {
      if (run.length > 0) await addRows(tx, jobId, run, log)
      else await changeOne(tx, jobId, changes[k], log)
    } catch (reason) {
      // Problems of a run name their own place.
      throw reason instanceof Refused && run.length === 0 ? reason.within(`changes[${k}].fields`) : reason
    }
    k += Math.max(1, run.length)
  }
  if (many) await tx.log(jobId, summaryOf(changes), changes)
}

type Log = (what: string, detail?: unknown) => Promise<void>

async function changeOne(tx: Tx, jobId: string, change: Change | undefined, log: Log): Promise<void> {
  switch (change?.op) {
    case 'set':
      return setRow(tx, change.table, change.id, change.version, change.fields, { jobId, log })
    case 'remove':
      return removeRow(tx, change.table, change.id, change.version, { jobId, log })
    case 'restore':
      return restoreRow(tx, change.table, change.id, { jobId, log })
  }
}

/** Where a change may happen, and who is told; left out, the row's own job is told. */
interface Around {
  readonly jobId?: string
  readonly log?: Log
}

async function jobOf(tx: Tx, table: RowTable, row: ObjectLiteral, { jobId }: Around): Promise<string> {
  const found = await rowKinds[table].jobOf(tx, row)
  if (jobId !== undefined && found !== jobId) throw notFound(table, String(row.id))
  return found
}

/** How the log calls a row; a port or node with its device. */
async function called(tx: Tx, table: RowTable, row: ObjectLiteral): Promise<string> {
  const own = rowKinds[table].say(row)
  if (table !== 'port' && table !== 'node') return own
  const device = await tx.manager.findOneBy(devices, { id: row.deviceId })
  return `Device ${device?.tag ?? '?'}, ${own.charAt(0).toLowerCase()}${own.slice(1)}`
}

export async function setRow(
  tx: Tx,
  table: RowTable,
  id: string,
  version: number,
  fields: StoredFields,
  around: Around = {},
): Promise<void> {
  const kind = rowKinds[table]
  const before = await rowById(tx, kind.table, id)
  const jobId = await jobOf(tx, table, before, around)
  const change = stored(kind, fields)
  await requireLinks(tx, jobId, table, change)
  await kind.check?.(tx, jobId, change, id)
  await changeRow(tx, kind.table, id, version, change as Values)
  const log = around.log ?? ((what: string) => tx.log(jobId, what))
  await log(`${await called(tx, table, before)}: ${differences(before, change)}`)
}

/** Taken out of sight, not out of the database: one action brings it back with everything it had. */
export async function removeRow(
  tx: Tx,
  table: RowTable,
  id: string,
  version: number,
  around: Around = {},
): Promise<void> {
  const kind = rowKinds[table]
  const before = await changeRow(tx, kind.table, id, version, {})
  const jobId = await jobOf(tx, table, before, around)
  await tx.manager.update(kind.table, { id }, { removedAt: tx.now } as Values)
  const log = around.log ?? ((what: string) => tx.log(jobId, what))
  await log(`${await called(tx, table, before)} removed`)
}

export async function restoreRow(tx: Tx, table: RowTable, id: string, around: Around = {}): Promise<void> {
  const kind = rowKinds[table]
  const row = await removedRow(tx, kind.table, id)
  const jobId = await jobOf(tx, table, row, around)
  await kind.check?.(tx, jobId, row, id)
  await tx.manager.update(kind.table, { id }, { removedAt: null, version: row.version + 1 } as Values)
  const log = around.log ?? ((what: string) => tx.log(jobId, what))
  await log(`${await called(tx, table, row)} brought back`)
}

/** One new row with an id of its own. @returns the id */
export async function addRow(tx: Tx, jobId: string, table: RowTable, fields: StoredFields): Promise<string> {
  const id = randomUUID()
  await rowById(tx, rowKinds.job.table, jobId)
  const { refused } = await tryAddRows(tx, jobId, [{ op: 'add', table, id, fields }], (what, detail) =>
    tx.log(jobId, what, detail),
  )
  if (refused) throw refused.reason
  return id
}

async function addRows(tx: Tx, jobId: string, run: readonly AddChange[], log: Log): Promise<void> {
  const { refused } = await tryAddRows(tx, jobId, run, log)
  if (refused) throw refused.reason.within(`changes[${refused.index}].fields`)
}

const ORDER: readonly RowTable[] = ['network', 'line', 'kind', 'device', 'port', 'node', 'request', 'acceptance']

/**
 * Adds many rows, those first that others point to. Tags and links of thousands are checked against the job as a
 * whole rather than one by one.
 */
async function tryAddRows(
  tx: Tx,
  jobId: string,
  run: readonly AddChange[],
  log: Log,
): Promise<{ readonly refused?: { readonly index: number; readonly reason: Refused } }> {
  const known = await idsOf(tx, jobId, run)
  const tags = run.some((change) => change.table === 'device')
    ? new Set(
        (
          await tx.manager.find(devices, { where: { jobId, removedAt: IsNull() }, select: { id: true, tag: true } })
        ).map((row) => row.tag),
      )
    : new Set<string>()
  for (const table of ORDER) {
    const kind = rowKinds[table]
    const rows: ObjectLiteral[] = []
    for (const [index, change] of run.entries()) {
      if (change.table !== table) continue
      const fields = { ...stored(kind, change.fields), ...kind.more?.(tx) }
      try {
        requireKnown(table, fields, known)
        if (table === 'device') requireNewTag(String(change.fields.tag), tags)
        else await kind.check?.(tx, jobId, fields, change.id)
        if (table === 'device') await kind.check?.(tx, jobId, { kind: change.fields.kind }, change.id)
      } catch (reason) {
        if (reason instanceof Refused) return { refused: { index, reason } }
        throw reason
      }
      const place = table === 'port' || table === 'node' ? {} : { jobId }
      rows.push({ id: change.id, ...fields, ...place, version: 1, removedAt: null })
    }
    // Links among the new devices are laid when all of them are there.
    const linked = rows.filter((row) => table === 'device' && row.behindId !== null)
    for (let k = 0; k < rows.length; k += ROWS_AT_ONCE) {
      const part = rows.slice(k, k + ROWS_AT_ONCE)
      await tx.manager.insert(
        kind.table,
        (table === 'device' ? part.map((row) => ({ ...row, behindId: null })) : part) as Values[],
      )
    }
    for (const row of linked) await tx.manager.update(devices, { id: row.id }, { behindId: row.behindId })
    for (const row of rows) await log(`${await called(tx, table, row)} added`, row)
  }
  return {}
}

function requireNewTag(tag: string, tags: Set<string>): void {
  if (tags.has(tag)) throw refusedBecause(`There is a device ${tag} already.`, 'a tag of its own', tag, 'tag')
  tags.add(tag)
}

/** Ids that new rows may point to: those of the job and those of the run itself. */
async function idsOf(tx: Tx, jobId: string, run: readonly AddChange[]): Promise<ReadonlySet<string>> {
  const ids = new Set(run.map((change) => change.id))
  if (run.some((change) => change.table !== 'network' && change.table !== 'line')) {
    for (const table of ['network', 'line', 'device'] as const) {
      const rows = await tx.manager.find(rowKinds[table].table, { where: { jobId }, select: { id: true } })
      for (const row of rows) ids.add(row.id)
    }
  }
  return ids
}

function requireKnown(table: RowTable, fields: StoredFields, known: ReadonlySet<string>): void {
  const links = {
    ...rowKinds[table].links,
    ...((table === 'port' || table === 'node') && { deviceId: { name: 'device' } }),
  }
  for (const [name, { name: what }] of Object.entries(links)) {
    const value = fields[name]
    if (typeof value === 'string' && !known.has(value))
      throw refusedBecause(`There is no such ${what} in this job.`, `a ${what} of this job`, value, name)
  }
}

async function requireLinks(tx: Tx, jobId: string, table: RowTable, fields: StoredFields): Promise<void> {
  for (const [name, { table: other, name: what }] of Object.entries(rowKinds[table].links)) {
    const value = fields[name]
    if (typeof value !== 'string') continue
    const found = await tx.manager.findOne(other, { where: { id: In([value]), jobId } })
    if (!found) throw refusedBecause(`There is no such ${what} in this job.`, `a ${what} of this job`, value, name)
  }
}

/** @example '12 changes: 5 devices added, 7 ports changed' */
function summaryOf(changes: readonly Change[]): string {
  const words = { set: 'changed', add: 'added', remove: 'removed', restore: 'brought back' } as const
  const counts = new Map<string, number>()
  for (const { op, table } of changes) {
    const key = `${table}s ${words[op]}`
    counts.set(key, (counts.get(key) ?? 0) + 1)
  }
  return `${changes.length} changes: ${[...counts].map(([what, count]) => `${count} ${what}`).join(', ')}`
}
