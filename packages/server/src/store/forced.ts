import { randomUUID } from 'node:crypto'
import type { ForcedValue } from '@calm/core/job'
import { forced } from '../db'
import { notFound, Refused, refusedBecause } from './refusals'
import type { Tx } from './store'

/** Notes a value that is held by hand somewhere. */
export async function addForced(tx: Tx, jobId: string, fields: Pick<ForcedValue, 'where' | 'value'>): Promise<string> {
  const job = await tx.job(jobId)
  const row: ForcedValue = {
    id: randomUUID(),
    ...fields,
    who: tx.who,
    at: tx.now,
    releasedBy: null,
    releasedAt: null,
    version: 1,
  }
  await tx.manager.insert(forced, { ...row, jobId })
  tx.keep({ ...job, forced: [...job.forced, row] })
  await tx.log(jobId, `Forced value noted: ${fields.where} = ${fields.value}`)
  return row.id
}

/** Somebody has seen that it is not held any more. */
export async function releaseForced(tx: Tx, id: string, version: number): Promise<void> {
  const before = await tx.manager.findOne(forced, { where: { id } })
  if (!before) throw notFound('forced', id)
  if (before.releasedAt !== null)
    throw refusedBecause('It is released already.', 'a value that is still forced', before.where)
  if (before.version !== version) {
    const what = 'Somebody else saved this meanwhile.'
    const problem = { what, where: 'version', expected: String(before.version), found: String(version) }
    throw new Refused(409, [problem], before)
  }
  const change = { releasedBy: tx.who, releasedAt: tx.now, version: version + 1 }
  await tx.manager.update(forced, { id }, change)
  const job = await tx.job(before.jobId)
  tx.keep({ ...job, forced: job.forced.map((each) => (each.id === id ? { ...each, ...change } : each)) })
  await tx.log(before.jobId, `Forced value seen released: ${before.where}`)
}
