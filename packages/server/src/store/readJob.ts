import type { Evidence } from '@calm/core/evidence'
import {
  inOrder,
  ownerField,
  rowKinds,
  withoutLoose,
  type AnyRow,
  type Job,
  type RowTable,
  type StoredDecision,
} from '@calm/core/job'
import { groupedBy } from '@calm/core/units'
import type { EntityManager } from 'typeorm'
import { fromStored, type DecisionRow, type EvidenceRow, type ForcedRow } from '../db'
import { breather } from './breathe'
import { notFound } from './refusals'

type Raw = Readonly<Record<string, unknown>>

/** The rows of one table of a job that were not removed, plain: many times faster than as entities. */
function select(table: RowTable): string {
  const kind = rowKinds[table]
  const owner = ownerField(kind)
  if (owner === undefined) return `SELECT t.* FROM "${table}" t WHERE t."jobId" = ? AND t."removedAt" IS NULL`
  return `SELECT t.* FROM "${table}" t JOIN "${kind.owner}" o ON o."id" = t."${owner}"
          WHERE o."jobId" = ? AND o."removedAt" IS NULL AND t."removedAt" IS NULL`
}

/** The whole job as it travels, without rows that were removed and without links to them. */
export async function readJob(manager: EntityManager, jobId: string): Promise<Job> {
  const breathe = breather()
  const [head]: readonly Raw[] = await manager.query(`SELECT * FROM "job" WHERE "id" = ? AND "removedAt" IS NULL`, [
    jobId,
  ])
  if (!head) throw notFound('job', jobId)

  /** Rows of a table by the id of the row that holds them; '' where the job does. */
  const listsOf = async (table: RowTable, add: (row: Raw) => object = () => ({})) => {
    const owner = ownerField(rowKinds[table])
    const lists = new Map<string, AnyRow[]>()
    for (const stored of (await manager.query(select(table), [jobId])) as readonly Raw[]) {
      const ownerId = owner ? String(stored[owner]) : ''
      const row = { ...add(stored), ...fromStored(table, stored) }
      const known = lists.get(ownerId)
      if (known) known.push(row)
      else lists.set(ownerId, [row])
      await breathe()
    }
    const sorted = new Map<string, readonly AnyRow[]>()
    for (const [ownerId, rows] of lists) sorted.set(ownerId, inOrder(rowKinds[table], rows))
    return (ownerId: string): readonly AnyRow[] => sorted.get(ownerId) ?? []
  }

  const [ports, nodes, terms, points] = [
    await listsOf('port'),
    await listsOf('node'),
    await listsOf('term'),
    await listsOf('point'),
  ]
  const decisions = await decisionsOf(manager, jobId)
  const idOf = (row: Raw) => String(row.id)
  const own = async (table: RowTable, add?: (row: Raw) => object) => (await listsOf(table, add))('')
  const job = {
    ...fromStored('job', head),
    networks: await own('network'),
    lines: await own('line'),
    kinds: await own('kind'),
    devices: await own('device', (row) => ({ ports: ports(idOf(row)), nodes: nodes(idOf(row)) })),
    requests: await own('request'),
    acceptances: await own('acceptance'),
    standings: await own('standing'),
    handshakes: await own('handshake', (row) => ({
      terms: terms(idOf(row)),
      points: points(idOf(row)),
      decisions: decisions(idOf(row)),
    })),
    forced: await forcedOf(manager, jobId),
    evidence: await evidenceOf(manager, jobId),
  }
  // What was read has the form that the definitions of the rows say; the types follow from the same definitions.
  return withoutLoose(job as object as Job)
}

async function decisionsOf(manager: EntityManager, jobId: string): Promise<(id: string) => readonly StoredDecision[]> {
  const rows: readonly DecisionRow[] = await manager.query(
    `SELECT d.* FROM "decision" d JOIN "handshake" h ON h."id" = d."handshakeId" WHERE h."jobId" = ? ORDER BY d."at", d.rowid`,
    [jobId],
  )
  const groups = groupedBy(rows, (row) => row.handshakeId)
  return (id) =>
    (groups.get(id) ?? []).map(({ handshakeId: _handshake, ...decision }) => decision as object as StoredDecision)
}

async function forcedOf(manager: EntityManager, jobId: string) {
  const rows: readonly ForcedRow[] = await manager.query(
    `SELECT * FROM "forced" WHERE "jobId" = ? ORDER BY "at", rowid`,
    [jobId],
  )
  return rows.map(({ jobId: _job, ...row }) => row)
}

async function evidenceOf(manager: EntityManager, jobId: string): Promise<readonly Evidence[]> {
  const rows: readonly EvidenceRow[] = await manager.query(
    `SELECT * FROM "evidence" WHERE "jobId" = ? ORDER BY "at", rowid`,
    [jobId],
  )
  return rows.map(evidenceFrom)
}

/** One piece of evidence as it lies in the database. */
function evidenceFrom({ jobId: _job, subjectKind, subjectId, facts, basis, ...seen }: EvidenceRow): Evidence {
  return {
    ...seen,
    subject: { kind: subjectKind, id: subjectId },
    facts: JSON.parse(facts),
    basis: JSON.parse(basis),
  } as object as Evidence
}
