/** What a check came to. With nothing to compare it is not conclusive, and never passed. */
export type CheckVerdict = 'passed' | 'failed' | 'not-conclusive'

export const checkVerdicts: Readonly<Record<CheckVerdict, string>> = {
  passed: 'passed',
  failed: 'failed',
  'not-conclusive': 'not conclusive',
}

export interface CheckResult {
  readonly verdict: CheckVerdict
  /** What was found, with how many of how many were compared. */
  readonly say: string
  readonly compared: number
  readonly of: number
  /** Whether something was looked at in the plant, or only what is written down was compared. */
  readonly how: 'read-live' | 'computed'
}

/** One thing that a check looked at. */
export interface Look {
  readonly state: 'agrees' | 'differs' | 'not-known'
  readonly say: string
}

export const agrees = (say: string): Look => ({ state: 'agrees', say })
export const differs = (say: string): Look => ({ state: 'differs', say })
export const notKnown = (say: string): Look => ({ state: 'not-known', say })

interface Judging {
  readonly how: CheckResult['how']
  /** Whether one thing compared is enough, or everything has to be. */
  readonly needs: 'one' | 'all'
  /** Said of a check that passed, before what it saw. */
  readonly good?: string
  /** Said where there was nothing to look at. */
  readonly nothing?: string
}

const NOTHING = 'There is nothing to compare.'

/**
 * Judges what a check looked at. One difference fails it. With nothing compared, or with something left that had to be,
 * it is not conclusive.
 */
export function judged(looks: readonly Look[], { how, needs, good, nothing = NOTHING }: Judging): CheckResult {
  const saying = (state: Look['state']) => looks.filter((look) => look.state === state).map(({ say }) => say)
  const [agreeing, differing, open] = [saying('agrees'), saying('differs'), saying('not-known')]
  const compared = agreeing.length + differing.length
  const counted = looks.length > 1 ? ` ${compared} of ${looks.length} compared.` : ''
  const result = (verdict: CheckVerdict, sentences: readonly string[]): CheckResult => ({
    verdict,
    say: `${sentences.filter((each) => each !== '').join(' ')}${counted}`,
    compared,
    of: looks.length,
    how,
  })
  if (differing.length > 0) return result('failed', differing)
  if (compared === 0) return result('not-conclusive', open.length > 0 ? open : [nothing])
  if (needs === 'all' && open.length > 0) return result('not-conclusive', open)
  return result('passed', good === undefined ? [...agreeing, ...open] : [good, ...open])
}
