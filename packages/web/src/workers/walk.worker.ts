import { planWalk, type LeftOut, type WalkPlan } from '@calm/core/procedure'
import type { BringUpAction, BringUpJob } from '@calm/core/sequence'
import { expose } from 'comlink'

/** The order of bring-up and its times, off the page's own thread. */
const api = {
  plan: (
    job: BringUpJob,
    begun: readonly BringUpAction[],
    previous: readonly BringUpAction[],
    people: 1 | 2,
  ): WalkPlan | { readonly leftOut: readonly LeftOut[]; readonly tooLarge: true } =>
    planWalk(job, begun, previous, people),
}

export type WalkApi = typeof api
expose(api)
