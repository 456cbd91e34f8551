import { ownerField, rowKinds, type AnyRow, type RowTable } from '@calm/core/job'
import { fromStored, rowEntities, updateRow } from '../db'
import { notFound, refusedBecause } from './refusals'
import type { Tx } from './store'

/**
 * Brings a row back that was removed, with everything that hung on it.
 * @returns the row as it stands in the job
 */
export async function bringBack(tx: Tx, jobId: string, table: RowTable, id: string): Promise<AnyRow> {
  const kind = rowKinds[table]
  const row = await tx.manager.findOne(rowEntities[table], { where: { id } })
  if (!row || (await jobOf(tx, table, row)) !== jobId) throw notFound(kind.name, id)
  if (row.removedAt === null)
    throw refusedBecause(`This ${kind.name} was not removed.`, `a ${kind.name} that was removed`, id, 'id')
  await updateRow(tx.manager, table, id, { removedAt: null, version: row.version + 1 })
  return fromStored(table, row)
}

async function jobOf(tx: Tx, table: RowTable, row: Readonly<Record<string, unknown>>): Promise<unknown> {
  const kind = rowKinds[table]
  const owner = ownerField(kind)
  if (owner === undefined) return row.jobId
  const holder = await tx.manager.findOne(rowEntities[kind.owner as RowTable], { where: { id: String(row[owner]) } })
  return holder?.jobId
}
