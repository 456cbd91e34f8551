import type { Instant } from '../units'
import type { Rung } from './rungs'

/** How something was seen. */
export type How = 'read-live' | 'typed' | 'seen' | 'measured'

export const howWords: Readonly<Record<How, string>> = {
  'read-live': 'read live',
  typed: 'typed from another screen',
  seen: 'seen with the eye',
  measured: 'measured with an instrument',
}

/** The facts that evidence rests on, by name, as they were when it was recorded. */
export type Basis = Readonly<Record<string, string>>

/** One thing seen, for or against a rung. Never changed afterwards. */
export interface Evidence {
  readonly id: string
  readonly rung: Rung
  readonly verdict: 'proven' | 'at-odds'
  readonly who: string
  readonly at: Instant
  readonly how: How
  readonly value: string
  readonly basis: Basis
}

/** A person's decision about a rung; the latest one counts, `none` takes it back. */
export interface Decision {
  readonly rung: Rung
  readonly state: 'parked' | 'not-apply' | 'waiting' | 'in-hand' | 'none'
  readonly reason: string
  readonly who: string
  readonly at: Instant
}

/** Which facts changed since. */
export interface Change {
  readonly fact: string
  readonly then: string
  readonly now: string
}

/** What a rung's evidence rested on and no longer holds; empty while it applies. */
export function changesSince(evidence: Evidence, now: Basis, restsOn: readonly string[]): readonly Change[] {
  return restsOn
    .filter((fact) => (evidence.basis[fact] ?? '') !== (now[fact] ?? ''))
    .map((fact) => ({ fact, then: evidence.basis[fact] ?? '', now: now[fact] ?? '' }))
}
