import { refusedBecause } from './refusals'

/** Nobody else can make one: a class with a private field is no other thing of the same form. */
class Witnessed {
  readonly #onSamePlan = true

  get isOnSamePlan(): boolean {
    return this.#onSamePlan
  }
}

/**
 * That what was seen on the wire was asked on the plan as it still is. Evidence "read live" is not written without one,
 * and one is only had by comparing.
 */
export type Witness = Witnessed

/** What was asked, and what would be asked now. */
export interface AskedOn {
  readonly before: string
  readonly now: string
  /** What is said where they differ. */
  readonly say: string
  readonly where?: string
}

/** @throws Refused 422 where the plan changed while it was asked */
export function witnessOf({ before, now, say, where }: AskedOn): Witness {
  if (before !== now) throw refusedBecause(say, now, before, where)
  return new Witnessed()
}
