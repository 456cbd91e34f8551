import { randomUUID } from 'node:crypto'
import type { RunFacts } from '@calm/core/procedure'
import { IsNull } from 'typeorm'
import { ownRuns } from '../db'
import { notFound, refusedBecause } from './refusals'
import type { Tx } from './store'

export async function addRun(tx: Tx, jobId: string, run: RunFacts): Promise<string> {
  const here = await tx.manager.find(ownRuns, { where: { jobId, removedAt: IsNull() } })
  if (here.some((row) => JSON.parse(row.facts).id === run.id))
    throw refusedBecause(`There is a run "${run.id}" in this job already.`, 'an id of its own', run.id, 'facts.id')
  const id = randomUUID()
  await tx.manager.insert(ownRuns, { id, jobId, facts: JSON.stringify(run), version: 1, removedAt: null })
  await tx.log(jobId, `Run added: ${run.name}`, { id: run.id })
  return id
}

export async function removeRun(tx: Tx, id: string, version: number): Promise<void> {
  const row = await tx.manager.findOne(ownRuns, { where: { id, removedAt: IsNull() } })
  if (!row || row.version !== version) throw notFound('run', id)
  await tx.manager.update(ownRuns, { id }, { removedAt: tx.now, version: version + 1 })
  await tx.log(row.jobId, `Run removed: ${JSON.parse(row.facts).name}`)
}
