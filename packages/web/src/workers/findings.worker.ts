import { checkPlan, type LaptopAddress } from '@calm/core/address'
import type { Finding } from '@calm/core/findings'
import { addressPlanOf, type Job } from '@calm/core/job'
import { expose } from 'comlink'

/** Findings of a whole job, off the page's own thread. */
const api = {
  find: (job: Job, laptop: readonly LaptopAddress[]): readonly Finding[] => checkPlan(addressPlanOf(job, laptop)),
}

export type FindingsApi = typeof api
expose(api)
