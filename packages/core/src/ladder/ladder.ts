import { changesSince, type Basis, type Change, type Decision, type Evidence } from './evidence'
import { rungs, type Rung, type RungFacts } from './rungs'

export type RungState = 'not-started' | 'in-hand' | 'waiting' | 'proven' | 'at-odds' | 'parked' | 'not-apply'

export const rungStateWords: Readonly<Record<RungState, string>> = {
  'not-started': 'not started',
  'in-hand': 'in hand',
  waiting: 'waiting',
  proven: 'proven',
  'at-odds': 'at odds',
  parked: 'parked',
  'not-apply': 'does not apply',
}

/** What is known of a handshake when its ladder is drawn. */
export interface LadderFacts {
  readonly evidence: readonly Evidence[]
  readonly decisions: readonly Decision[]
  /** Rungs that the kind of device does not need. */
  readonly notApplying: readonly Rung[]
  readonly basis: Basis
  /** How the terms stand, computed from both ends. */
  readonly terms: { readonly agreeing: number; readonly atOdds: number; readonly total: number }
}

export interface RungOnLadder {
  readonly rung: Rung
  readonly name: string
  readonly state: RungState
  /** The evidence or decision that the state rests on, in one sentence. */
  readonly because: string
  /** What is still missing; empty when nothing is. */
  readonly missing: string
  readonly evidence: Evidence | undefined
  /** Why the latest evidence no longer applies. */
  readonly changes: readonly Change[]
}

export interface Ladder {
  readonly rungs: readonly RungOnLadder[]
  readonly proven: number
  /** Rungs that need proof at all. */
  readonly needed: number
}

/** Every rung with its state and what is missing. */
export function ladderOf(facts: LadderFacts): Ladder {
  const all = rungs.map((rung) => rungOnLadder(rung, facts))
  return {
    rungs: all,
    proven: all.filter((rung) => rung.state === 'proven').length,
    needed: all.filter((rung) => rung.state !== 'not-apply').length,
  }
}

function rungOnLadder(rung: RungFacts, facts: LadderFacts): RungOnLadder {
  const evidence = latest(facts.evidence.filter((each) => each.rung === rung.id))
  const decision = latest(facts.decisions.filter((each) => each.rung === rung.id))
  const changes = evidence ? changesSince(evidence, facts.basis, rung.restsOn) : []
  const base = { rung: rung.id, name: rung.name, evidence, changes }
  const decided = decision && decision.state !== 'none' && !(evidence && evidence.at > decision.at)

  if (decided && (decision.state === 'parked' || decision.state === 'not-apply')) {
    return { ...base, state: decision.state, because: `${decision.reason} (${decision.who})`, missing: '' }
  }
  if (rung.id === 'agreed' && facts.terms.atOdds > 0) {
    const count = facts.terms.atOdds
    return {
      ...base,
      state: 'at-odds',
      because: `${count} term${count === 1 ? '' : 's'} at odds.`,
      missing: 'Make both ends agree.',
    }
  }
  if (evidence && changes.length > 0) {
    return {
      ...base,
      state: 'in-hand',
      because: `Was ${evidence.verdict === 'proven' ? 'proven' : 'at odds'}; ${changes.map(changeText).join('; ')} since.`,
      missing: `See it again: ${rung.proof}`,
    }
  }
  if (evidence) {
    return evidence.verdict === 'proven'
      ? { ...base, state: 'proven', because: evidence.value, missing: '' }
      : { ...base, state: 'at-odds', because: evidence.value, missing: `Put it right and see it again: ${rung.proof}` }
  }
  if (decided && (decision.state === 'waiting' || decision.state === 'in-hand')) {
    return { ...base, state: decision.state, because: decision.reason, missing: rung.proof }
  }
  if (facts.notApplying.includes(rung.id) && decision?.state !== 'none') {
    return { ...base, state: 'not-apply', because: 'This kind of device does not need it.', missing: '' }
  }
  if (rung.id === 'agreed' && facts.terms.agreeing > 0) {
    const open = facts.terms.total - facts.terms.agreeing
    return {
      ...base,
      state: 'in-hand',
      because: `${facts.terms.agreeing} of ${facts.terms.total} terms agree.`,
      missing:
        open > 0
          ? `${open} term${open === 1 ? ' is' : 's are'} not known at both ends.`
          : 'Confirm that they are in force at both ends.',
    }
  }
  return { ...base, state: 'not-started', because: '', missing: rung.proof }
}

/** @example changeText({ fact: 'address.device', then: '10.20.40.50', now: '10.20.40.51' }) */
export function changeText({ fact, then, now }: Change): string {
  const [term = fact, end] = fact.split('.')
  const name = `${term.replaceAll('-', ' ')}${end ? ` (${end} end)` : ''}`
  return `${name} changed from ${then || 'blank'} to ${now || 'blank'}`
}

function latest<T extends { readonly at: number }>(entries: readonly T[]): T | undefined {
  return entries.reduce<T | undefined>(
    (newest, each) => (newest === undefined || each.at >= newest.at ? each : newest),
    undefined,
  )
}
