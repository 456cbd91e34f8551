import { randomUUID } from 'node:crypto'
import type { NewFact } from '@calm/contract/walk'
import { deviceOf } from '@calm/core/job'
import { facts } from '../db'
import { notFound } from './refusals'
import type { Tx } from './store'

/** How far a setting of a device has come, with who saw it. */
export async function addFact(
  tx: Tx,
  jobId: string,
  fact: NewFact | (Omit<NewFact, 'how'> & { readonly how: string }),
): Promise<void> {
  const device = deviceOf(await tx.job(jobId), fact.deviceId)
  if (!device) throw notFound('device', fact.deviceId)
  await tx.manager.insert(facts, { id: randomUUID(), jobId, ...fact, who: tx.who, at: tx.now })
  await tx.log(jobId, `${device.tag}, ${fact.setting}: ${fact.standing} ${fact.text}`, { how: fact.how })
}
