import type { Basis, Evidence } from '../evidence'
import type { Instant } from '../units'
import type { Rung } from './rungs'

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

/** Facts that were not kept from the beginning. */
export const laterFacts = ['notation', 'served', 'source', 'line-settings'] as const

/** Names the facts that a basis holds beside the texts of terms; evidence of older programs has none of them. */
export const BASIS_KEEPS = 'basis.keeps'

/**
 * What a rung's evidence rested on and no longer holds; empty while it applies. What older evidence did not keep
 * (how a register was counted, as what a tag is served) is not held against it.
 */
export function changesSince(
  evidence: Pick<Evidence, 'basis'>,
  now: Basis,
  restsOn: readonly string[],
): readonly Change[] {
  const keeps = (evidence.basis[BASIS_KEEPS] ?? '').split(' ')
  const isLater = (fact: string) => laterFacts.some((later) => later === fact.split('.')[0] && !keeps.includes(later))
  return restsOn
    .filter((fact) => !isLater(fact))
    .filter((fact) => (evidence.basis[fact] ?? '') !== (now[fact] ?? ''))
    .map((fact) => ({ fact, then: evidence.basis[fact] ?? '', now: now[fact] ?? '' }))
}
