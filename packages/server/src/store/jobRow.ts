import { randomUUID } from 'node:crypto'
import type { NewJob } from '@calm/contract'
import { blanksOf, jobFields } from '@calm/core/job'
import { insertRows, rowEntities, toStored, updateRow, type StoredRow } from '../db'
import { notFound, refusedBecause } from './refusals'
import type { Tx } from './store'

export async function addJob(tx: Tx, fields: NewJob): Promise<string> {
  const id = randomUUID()
  const row = {
    ...toStored('job', { ...blanksOf(jobFields), ...fields }),
    id,
    version: 1,
    createdAt: tx.now,
    removedAt: null,
  }
  await insertRows(tx.manager, 'job', [row])
  await tx.log(id, 'Job begun', fields)
  return id
}

async function jobRow(tx: Tx, id: string): Promise<StoredRow> {
  const row = await tx.manager.findOne(rowEntities.job, { where: { id } })
  if (!row) throw notFound('job', id)
  return row
}

/** Taken out of sight with everything in it; one action brings it back. */
export async function removeJob(tx: Tx, id: string): Promise<void> {
  const { version, removedAt } = await jobRow(tx, id)
  if (removedAt !== null) throw notFound('job', id)
  await updateRow(tx.manager, 'job', id, { removedAt: tx.now, version: version + 1 })
  tx.forget(id)
  await tx.log(id, 'Job removed')
}

export async function restoreJob(tx: Tx, id: string): Promise<void> {
  const { version, removedAt } = await jobRow(tx, id)
  if (removedAt === null) throw refusedBecause('This job was not removed.', 'a job that was removed', id, 'id')
  await updateRow(tx.manager, 'job', id, { removedAt: null, version: version + 1 })
  tx.forget(id)
  await tx.log(id, 'Job brought back')
}
