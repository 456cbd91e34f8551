import { rungFacts } from '../ladder'
import type { Handshake, Job } from './model'
import { ladderFor } from './standing'

/** Whether something that is proven of a handshake rests on a fact: when that changes, the evidence falls back. */
export const hasProven = (job: Job, handshake: Handshake, fact: string): boolean =>
  ladderFor(job, handshake).rungs.some(
    ({ rung, state }) => state === 'proven' && rungFacts(rung).restsOn.includes(fact),
  )
