import { randomUUID } from 'node:crypto'
import type { Evidence } from '@calm/core/evidence'
import { ownerField, rowKinds, type AnyRow, type Field, type Job, type RowTable } from '@calm/core/job'
import type { WalkRecord } from '@calm/core/procedure'
import type { EntitySchema, ObjectLiteral } from 'typeorm'
import { decisions, evidence, forced, insertRows, rowEntities, toStored } from '../db'
import { breather } from './breathe'
import type { Tx } from './store'
import { writeNewWalk } from './walkRecord'

/** SQLite takes a limited number of values in one statement. */
const ROWS_AT_ONCE = 50

/** Gives every id a new one, the same for the same. */
type Fresh = (id: string) => string

/** A field with new ids in place of those that it names. */
function freshField({ type }: Field<unknown>, value: unknown, fresh: Fresh): unknown {
  if (type.is === 'row' && typeof value === 'string') return fresh(value)
  if (type.is === 'shape' && type.shape === 'device-ids') return (value as readonly string[]).map(fresh)
  return value
}

/** A row of a table as it lies in the database, with new ids. */
export function storedRow(table: RowTable, row: AnyRow, ownerId: string, fresh: Fresh): ObjectLiteral {
  const kind = rowKinds[table]
  const owner = ownerField(kind)
  const fields = Object.fromEntries(
    Object.entries(kind.fields).map(([name, field]) => [name, freshField(field, row[name], fresh)]),
  )
  return {
    ...toStored(table, fields),
    id: fresh(row.id),
    ...(owner ? { [owner]: fresh(ownerId) } : { jobId: fresh(ownerId) }),
    ...(kind.stamped && { who: row.who, at: row.at }),
    version: row.version,
    removedAt: null,
  }
}

const TABLES_OF_JOB = ['network', 'line', 'kind', 'device', 'request', 'acceptance', 'standing', 'handshake'] as const

/** Every row of a job besides its own, with the row that holds it. */
function* rowsOf(job: Job): Generator<{ readonly table: RowTable; readonly row: AnyRow; readonly ownerId: string }> {
  for (const table of TABLES_OF_JOB) {
    for (const row of (job as object as Record<string, readonly AnyRow[]>)[rowKinds[table].list] ?? [])
      yield { table, row, ownerId: job.id }
  }
  for (const [tables, owners] of [
    [['port', 'node'] as const, job.devices],
    [['term', 'point'] as const, job.handshakes],
  ] as const) {
    for (const table of tables)
      for (const owner of owners)
        for (const row of (owner as object as Record<string, readonly AnyRow[]>)[rowKinds[table].list] ?? [])
          yield { table, row, ownerId: owner.id }
  }
}

/**
 * Writes a whole job as new rows. Every id gets a new one, the same for the same, so a job may be imported twice.
 * @returns the id of the new job
 */
export const writeNewJob = async (tx: Tx, job: Job, how: string, walk?: WalkRecord): Promise<string> =>
  (await writeJobAnew(tx, job, how, walk)).jobId

/** The same, with the new id of every old one. */
export async function writeJobAnew(
  tx: Tx,
  job: Job,
  how: string,
  walk?: WalkRecord,
): Promise<{ readonly jobId: string; readonly ids: ReadonlyMap<string, string> }> {
  const ids = new Map<string, string>()
  const fresh: Fresh = (id) => {
    const known = ids.get(id) ?? randomUUID()
    ids.set(id, known)
    return known
  }
  const breathe = breather()
  const add = async (table: EntitySchema<ObjectLiteral>, rows: readonly ObjectLiteral[]) => {
    for (let k = 0; k < rows.length; k += ROWS_AT_ONCE) {
      await tx.manager.insert(table, rows.slice(k, k + ROWS_AT_ONCE))
      await breathe()
    }
  }
  const jobId = fresh(job.id)
  const { name, place, mode, addressRules } = job
  const own = toStored('job', { name, place, mode, addressRules })
  await insertRows(tx.manager, 'job', [{ ...own, id: jobId, version: job.version, createdAt: tx.now, removedAt: null }])
  const byTable = new Map<RowTable, ObjectLiteral[]>()
  for (const { table, row, ownerId } of rowsOf(job)) {
    const rows = byTable.get(table) ?? []
    byTable.set(table, rows)
    rows.push(storedRow(table, row, ownerId, fresh))
  }
  for (const [table, rows] of byTable) await add(rowEntities[table] as EntitySchema<ObjectLiteral>, rows)
  await add(
    decisions as EntitySchema<ObjectLiteral>,
    job.handshakes.flatMap((handshake) =>
      handshake.decisions.map((row) => ({ ...row, id: fresh(row.id), handshakeId: fresh(handshake.id) })),
    ),
  )
  await add(
    evidence as EntitySchema<ObjectLiteral>,
    job.evidence.map((seen) => storedEvidence(seen, jobId, fresh)),
  )
  await add(
    forced as EntitySchema<ObjectLiteral>,
    job.forced.map((row) => ({ ...row, id: fresh(row.id), jobId })),
  )
  if (walk) await writeNewWalk(tx, jobId, withFreshIds(walk, ids))
  const told = toldBy(job)
  await tx.log(jobId, how, {
    name,
    devices: job.devices.length,
    handshakes: job.handshakes.length,
    ...(told.length > 0 && { told }),
  })
  return { jobId, ids }
}

/** By whom and when everything was seen, let stand or decided that a job comes with. */
const toldBy = ({ evidence: seen, acceptances, handshakes }: Job): readonly string[] => [
  ...new Set(
    [...seen, ...acceptances, ...handshakes.flatMap(({ decisions: made }) => made)].map(
      ({ who, at }) => `${who} ${at}`,
    ),
  ),
]

/** A piece of evidence as it lies in the database. */
export const storedEvidence = ({ subject, facts, basis, ...seen }: Evidence, jobId: string, fresh: Fresh) => ({
  ...seen,
  id: fresh(seen.id),
  jobId,
  subjectKind: subject.kind,
  subjectId: fresh(subject.id),
  facts: JSON.stringify(facts),
  basis: JSON.stringify(basis),
})

const ID = /[0-9a-f]{8}-[0-9a-f]{4}-4[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}/g

/**
 * The walk with every id made anew. Ids of rows stand inside the keys of steps and actions too, so the text is gone
 * through; what looks like an id and is none of this job stays as it is.
 */
function withFreshIds(walk: WalkRecord, ids: ReadonlyMap<string, string>): WalkRecord {
  const known = JSON.parse(JSON.stringify(walk).replace(ID, (id) => ids.get(id) ?? id)) as WalkRecord
  const own = <T extends { readonly id: string }>(rows: readonly T[]) =>
    rows.map((row) => ({ ...row, id: randomUUID() }))
  return {
    ...known,
    steps: own(known.steps),
    facts: own(known.facts),
    temporary: own(known.temporary),
    runs: own(known.runs),
  }
}
