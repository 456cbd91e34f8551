import type { Basis, Evidence } from '../evidence'
import type { Instant } from '../units'
import { termIds, type TermId } from '../terms'
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

/** What evidence kept beside the texts of the first ten terms, in the order in which it came. */
export const laterFacts = ['notation', 'served', 'source', 'line-settings', 'whole-catalogue'] as const

/** Terms that evidence rests on since the first program. */
const FIRST_TERMS: readonly string[] = [
  ...(['address', 'mask', 'port', 'unit-id', 'function-code', 'first-register', 'count'] as const),
  ...(['data-type', 'word-order', 'scale'] as const),
] satisfies readonly TermId[]

/** By which word a basis says that it kept a fact; `undefined` for what was kept from the beginning. */
function keptBy(fact: string): (typeof laterFacts)[number] | undefined {
  const name = fact.split('.')[0] ?? ''
  return (
    laterFacts.find((later) => later === name) ??
    (termIds.some((id) => id === name) && !FIRST_TERMS.includes(name) ? 'whole-catalogue' : undefined)
  )
}

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
  const wasKept = (fact: string) => {
    const by = keptBy(fact)
    return by === undefined || keeps.includes(by)
  }
  return restsOn
    .filter(wasKept)
    .filter((fact) => (evidence.basis[fact] ?? '') !== (now[fact] ?? ''))
    .map((fact) => ({ fact, then: evidence.basis[fact] ?? '', now: now[fact] ?? '' }))
}
