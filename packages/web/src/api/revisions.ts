/** As of which log entry each answer about a job was made, by its path. */
const known = new Map<string, number>()

/** Keeps what an answer said of itself; answers about other things say nothing. */
export function hearRevision(path: string, header: string | null): void {
  if (header !== null && path.startsWith('/jobs/')) known.set(path, Number(header))
}

/** Whether something that was fetched of a job is older than the job is now. */
export function isBehind(jobId: string, revision: number): boolean {
  return [...known].some(([path, at]) => isOf(path, jobId) && at < revision)
}

/** What was fetched before is fetched again or not shown any more. */
export function forgetRevisions(jobId: string): void {
  for (const path of [...known.keys()]) if (isOf(path, jobId)) known.delete(path)
}

const isOf = (path: string, jobId: string): boolean => path === `/jobs/${jobId}` || path.startsWith(`/jobs/${jobId}/`)
