import type { Job } from '@calm/core/job'
import { readJob } from '../store'
import type { Store } from '../store'

/** Jobs as they are now, read again only after something changed: the live loops look at them several times a second. */
export class CurrentJobs {
  readonly #known = new Map<string, Promise<Job>>()

  constructor(readonly store: Store) {
    store.onChange((jobId) => this.#known.delete(jobId))
  }

  get(jobId: string): Promise<Job> {
    const known = this.#known.get(jobId)
    if (known) return known
    const reading = readJob(this.store.source.manager, jobId)
    this.#known.set(jobId, reading)
    reading.catch(() => this.#known.delete(jobId))
    return reading
  }
}
