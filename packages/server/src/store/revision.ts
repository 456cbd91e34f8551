import type { EntityManager } from 'typeorm'
import { notFound } from './refusals'

/** The header in which every answer about a job says as of which log entry it is. */
export const REVISION_HEADER = 'x-revision'

/** How far a job has come: the number of its newest log entry. Every change of a job writes one. @throws Refused 404 */
export async function revisionOf(manager: EntityManager, jobId: string): Promise<number> {
  const rows: { readonly newest: number | null }[] = await manager.query(
    `SELECT max("sequence") AS "newest" FROM "log_entry" WHERE "jobId" = ?`,
    [jobId],
  )
  const newest = rows[0]?.newest
  if (!newest) throw notFound('job', jobId)
  return newest
}
