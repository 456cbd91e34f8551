import type { Job } from '../job'
import { rungs } from '../ladder'
import type { Readiness } from './readiness'

/** What would be done next in a job, and the stage where. */
export interface NextThing {
  readonly say: string
  readonly stage: 'line-up' | 'first-contact' | 'terms' | 'proof' | 'hand-over'
}

/** Where each rung is worked on. */
const STAGES: Readonly<Record<string, NextThing['stage']>> = {
  safe: 'first-contact',
  powered: 'first-contact',
  reached: 'first-contact',
  agreed: 'terms',
  'handed-over': 'hand-over',
}

/**
 * The first thing that is open, in working order: what is at odds before what is not begun, and the lowest rung of the
 * first handshake that lacks it.
 */
export function nextOf(job: Job, ladders: Readiness['ladders']): NextThing {
  if (job.devices.length === 0) return { say: 'Find or list the devices.', stage: 'line-up' }
  if (ladders.length === 0) return { say: 'Begin a handshake.', stage: 'line-up' }
  for (const states of [['at-odds'], ['in-hand', 'waiting', 'not-started']]) {
    for (const [index, { id, name }] of rungs.entries()) {
      const open = ladders.filter(({ ladder }) => states.includes(ladder.rungs[index]?.state ?? ''))
      const [first, ...others] = open
      if (!first) continue
      const rung = first.ladder.rungs[index]
      const more = others.length > 0 ? ` and ${others.length} more` : ''
      const how = rung?.state === 'at-odds' ? 'at odds' : 'next'
      return { say: `${name} ${how}: ${first.handshake.name}${more}.`, stage: STAGES[id] ?? 'proof' }
    }
  }
  return { say: 'Everything is proven or decided.', stage: 'hand-over' }
}
