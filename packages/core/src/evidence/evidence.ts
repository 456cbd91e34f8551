import type { Rung } from '../ladder'
import type { Instant } from '../units'
import type { EvidenceFact } from './facts'
import type { EvidenceSubject } from './subject'

/** How something was seen. */
export type How = 'read-live' | 'typed' | 'seen' | 'measured'

export const howWords: Readonly<Record<How, string>> = {
  'read-live': 'read live',
  typed: 'typed from another screen',
  seen: 'seen with the eye',
  measured: 'measured with an instrument',
}

/** What evidence rests on, by name, as it was when it was recorded. */
export type Basis = Readonly<Record<string, string>>

/** One thing seen, for or against a rung. Never changed afterwards. */
export interface Evidence {
  readonly id: string
  readonly subject: EvidenceSubject
  readonly rung: Rung
  readonly verdict: 'proven' | 'at-odds'
  readonly who: string
  readonly at: Instant
  readonly how: How
  /** Against real equipment, or stand-ins. */
  readonly mode: 'plant' | 'bench'
  readonly facts: readonly EvidenceFact[]
  readonly basis: Basis
}
