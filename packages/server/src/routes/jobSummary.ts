import type { JobSummary } from '@calm/contract/api'
import { laddersOf, nextOf } from '@calm/core/handOver'
import { ladderFor, type Job } from '@calm/core/job'
import { rungs } from '@calm/core/ladder'
import { breather, type Store } from '../store'

const computed = new WeakMap<Job, Omit<JobSummary, 'workedOn'>>()

/** What the list of jobs says of one; computed once for each state of the job. */
async function summaryOf(job: Job): Promise<Omit<JobSummary, 'workedOn'>> {
  const known = computed.get(job)
  if (known) return known
  // Hundreds of ladders take longer than anything else may wait: made one by one, they are remembered for what follows.
  const breathe = breather()
  for (const handshake of job.handshakes) {
    ladderFor(job, handshake)
    await breathe()
  }
  const ladders = laddersOf(job, ladderFor)
  const ladder = rungs.map(({ id, name }, index) => {
    const states = ladders.flatMap(({ ladder: each }) => each.rungs[index]?.state ?? [])
    const count = (state: string) => states.filter((each) => each === state).length
    return {
      rung: id,
      name,
      proven: count('proven'),
      atOdds: count('at-odds'),
      needed: states.length - count('not-apply'),
    }
  })
  const sum = (pick: (rung: (typeof ladder)[number]) => number) => ladder.reduce((all, rung) => all + pick(rung), 0)
  const { id, name, place, mode } = job
  const summary = {
    id,
    name,
    place,
    mode,
    deviceCount: job.devices.length,
    handshakeCount: job.handshakes.length,
    provenCount: sum((rung) => rung.proven),
    neededCount: sum((rung) => rung.needed),
    ladder,
    next: nextOf(job, ladders),
  }
  computed.set(job, summary)
  return summary
}

/** All jobs that were not removed, the one that was worked on last first. */
export async function jobSummaries(store: Store): Promise<readonly JobSummary[]> {
  const rows: readonly { readonly id: string; readonly workedOn: number }[] = await store.read((manager) =>
    manager.query(
      `SELECT j."id", coalesce((SELECT max(l."at") FROM "log_entry" l WHERE l."jobId" = j."id"), j."createdAt") AS "workedOn"
       FROM "job" j WHERE j."removedAt" IS NULL ORDER BY "workedOn" DESC, j."createdAt" ASC, j.rowid ASC`,
    ),
  )
  return Promise.all(
    rows.map(async ({ id, workedOn }) => ({ ...(await summaryOf(await store.jobs.get(id))), workedOn })),
  )
}
