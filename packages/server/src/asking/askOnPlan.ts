import type { Job } from '@calm/core/job'
import type { WalkRecord } from '@calm/core/procedure'
import { readWalk, witnessOf, type Store, type Tx, type Witness } from '../store'

/** What is asked is asked of a job as it is. */
export interface Ground {
  readonly job: Job
  readonly walk: WalkRecord
}

interface Asking<T, R> {
  readonly who: string
  readonly jobId: string
  /** Everything that the answer rests on, in one text: where, whom, by what. */
  readonly plan: (ground: Ground) => string
  /** Asks; takes its time, and holds nobody up. */
  readonly ask: (ground: Ground) => Promise<T>
  /** Writes what the answer comes to, on the job as it is now. */
  readonly write: (tx: Tx, ground: Ground, answer: T, witness: Witness) => Promise<R>
}

/**
 * The one way to ask and to write what was seen: the plan is compared before and after, in the very write. A plan that
 * was changed while a device was asked proves nothing, and nothing is kept.
 *
 * @throws Refused 422 where the plan, or plant and bench, changed meanwhile
 */
export async function askOnPlan<T, R>(store: Store, { who, jobId, plan, ask, write }: Asking<T, R>): Promise<R> {
  const before: Ground = { job: await store.jobs.get(jobId), walk: await store.walks.get(jobId) }
  const asked = textOf(before, plan)
  const answer = await ask(before)
  return store.write(who, async (tx) => {
    const ground: Ground = { job: await tx.job(jobId), walk: await readWalk(tx.manager, jobId) }
    const witness = witnessOf({
      before: asked,
      now: textOf(ground, plan),
      say: 'The plan changed while the device was asked; nothing is recorded. Ask it again.',
    })
    return write(tx, ground, answer, witness)
  })
}

const textOf = (ground: Ground, plan: (ground: Ground) => string) => `${ground.job.mode}: ${plan(ground)}`
