import type { Plan } from '@calm/core/address'
import type { Finding } from '@calm/core/findings'
import type { Job } from '@calm/core/job'
import { checkLineUp } from '@calm/core/lineUp'
import { expose } from 'comlink'

/** Findings of a whole line-up, off the page's own thread. */
const api = {
  find: (job: Job, plan: Plan): readonly Finding[] => checkLineUp(job, plan),
}

export type FindingsApi = typeof api
expose(api)
