import { checkPlan, type Plan } from '@calm/core/address'
import type { Finding } from '@calm/core/findings'
import { expose } from 'comlink'

/** Findings of a whole plan, off the page's own thread. */
const api = {
  find: (plan: Plan): readonly Finding[] => checkPlan(plan),
}

export type FindingsApi = typeof api
expose(api)
