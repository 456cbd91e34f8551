import type { DataSource } from 'typeorm'

/** The header in which every answer about a job says as of which log entry it is. */
export const REVISION_HEADER = 'x-revision'

/** How far a job has come: the number of its newest log entry. Every change of a job writes one. */
export async function revisionOf(source: DataSource, jobId: string): Promise<number> {
  const rows: { readonly newest: number | null }[] = await source.query(
    `SELECT max("sequence") AS "newest" FROM "log_entry" WHERE "jobId" = ?`,
    [jobId],
  )
  return rows[0]?.newest ?? 0
}
