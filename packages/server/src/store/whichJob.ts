import type { EntityManager } from 'typeorm'
import { rowEntities } from '../db'
import { notFound } from './refusals'

/** The job that a handshake is of. @throws Refused 404 */
export async function jobOfHandshake(manager: EntityManager, id: string): Promise<string> {
  const row = await manager.findOne(rowEntities.handshake, { where: { id } })
  if (!row || row.removedAt !== null) throw notFound('handshake', id)
  return String(row.jobId)
}
