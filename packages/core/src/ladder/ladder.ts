import { sayEvidence, type Basis, type Evidence } from '../evidence'
import { groupedBy } from '../units'
import { changesSince, type Change, type Decision } from './evidence'
import { rungFacts, rungs, type Rung, type RungFacts } from './rungs'

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

/** A point that the handshake asks for, with what evidence of it rests on. */
export interface AskedPoint {
  readonly id: string
  readonly name: string
  readonly basis: Basis
}

/** What is known of a handshake when its ladder is drawn. */
export interface LadderFacts {
  /** Of the handshake, of its device, and of its points. */
  readonly evidence: readonly Evidence[]
  readonly decisions: readonly Decision[]
  /** Rungs that the kind of device does not need. */
  readonly notApplying: readonly Rung[]
  readonly basis: Basis
  readonly points: readonly AskedPoint[]
  /** How the terms stand, computed from both ends. */
  readonly terms: {
    readonly agreeing: number
    readonly atOdds: number
    readonly total: number
    /** How many are in force at both ends as planned, and names of those that are not; left out where nobody looked. */
    readonly standing?: {
      readonly inForce: number
      readonly pending: readonly string[]
      readonly otherwise: readonly string[]
    }
  }
}

/** How one thing that a rung asks for stands: the handshake as a whole, or one of its points. */
interface Standing {
  readonly state: 'proven' | 'at-odds' | 'changed' | 'open'
  /** The evidence that it rests on, in one sentence. */
  readonly because: string
  readonly evidence: Evidence | undefined
  /** Why the latest evidence no longer applies. */
  readonly changes: readonly Change[]
}

/** One point on a rung that asks for every point. */
export interface PointOnRung extends Standing {
  readonly id: string
  readonly name: string
}

export interface RungOnLadder {
  readonly rung: Rung
  readonly name: string
  readonly state: RungState
  /** The evidence or decision that the state rests on, in one sentence. */
  readonly because: string
  /** What is still missing; empty when nothing is. */
  readonly missing: string
  /** The latest evidence; of a rung that asks for every point, that of the point recorded last. */
  readonly evidence: Evidence | undefined
  readonly changes: readonly Change[]
  /** How each point stands, on a rung that asks for every one of them. */
  readonly points: readonly PointOnRung[]
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
  const seen = facts.evidence.filter((each) => each.rung === rung.id)
  const points = rung.about === 'point' ? pointsOn(rung, seen, facts) : []
  const evidence = latest(rung.about === 'point' ? points.flatMap((point) => point.evidence ?? []) : seen)
  const whole = rung.about === 'point' ? ofPoints(rung, points) : ofOne(rung, standingOf(rung, evidence, facts.basis))
  const decision = latest(facts.decisions.filter((each) => each.rung === rung.id))
  const base = { rung: rung.id, name: rung.name, evidence, changes: whole?.changes ?? [], points }
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
  const inForce = rung.id === 'agreed' ? byStanding(facts.terms) : undefined
  // Where somebody confirmed all of it, that is told, with who and when.
  if (inForce && !(inForce.state === 'proven' && whole?.state === 'proven')) return { ...base, ...inForce }
  if (whole) return { ...base, state: whole.state, because: whole.because, missing: whole.missing }
  if (decided && (decision.state === 'waiting' || decision.state === 'in-hand')) {
    return { ...base, state: decision.state, because: decision.reason, missing: toBeSeen(rung) }
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
  const missing = rung.about === 'point' && points.length === 0 ? 'No point is asked for yet.' : toBeSeen(rung)
  return { ...base, state: 'not-started', because: '', missing }
}

/** What proves a rung, said so that nobody takes it for something that is so already. */
const toBeSeen = ({ proof }: RungFacts): string =>
  `Still to be seen: ${proof.slice(0, 1).toLowerCase()}${proof.slice(1)}`

/** What is known to be entered and in force makes of the rung Agreed; `undefined` where it says nothing by itself. */
function byStanding({
  agreeing,
  total,
  standing,
}: LadderFacts['terms']): Pick<RungOnLadder, 'state' | 'because' | 'missing'> | undefined {
  if (!standing) return undefined
  const { inForce, pending, otherwise } = standing
  if (otherwise.length > 0)
    return {
      state: 'at-odds',
      because: `Not as planned at work or entered: ${otherwise.join(', ')}.`,
      missing: 'Enter what is planned, or plan what is there.',
    }
  if (pending.length > 0)
    return {
      state: 'in-hand',
      because: `Entered and not in force yet: ${pending.join(', ')}.`,
      missing: 'Bring it into force, and see that it is.',
    }
  return total > 0 && inForce === total && agreeing === total
    ? { state: 'proven', because: `All ${total} terms are in force at both ends.`, missing: '' }
    : undefined
}

const nothingSeen: Standing = { state: 'open', because: '', evidence: undefined, changes: [] }

/** What evidence makes of one thing, before decisions are looked at. */
function standingOf(rung: RungFacts, evidence: Evidence | undefined, basis: Basis): Standing {
  if (!evidence) return nothingSeen
  const changes = changesSince(evidence, basis, rung.restsOn)
  if (changes.length === 0) return { state: evidence.verdict, because: sayEvidence(evidence.facts), evidence, changes }
  const was = evidence.verdict === 'proven' ? 'proven' : 'at odds'
  return { state: 'changed', because: `Was ${was}; ${changes.map(changeText).join('; ')} since.`, evidence, changes }
}

/** What was seen of one point, whether it has to be proven or not. */
export const standingOfPoint = (seen: readonly Evidence[], basis: Basis): Standing =>
  standingOf(rungFacts('reading'), latest(seen.filter(({ rung }) => rung === 'reading')), basis)

function pointsOn(rung: RungFacts, seen: readonly Evidence[], { points }: LadderFacts): readonly PointOnRung[] {
  const byPoint = groupedBy(seen, ({ subject }) => (subject.kind === 'point' ? subject.id : undefined))
  return points.map((point) => {
    const own = byPoint.get(point.id)
    return { id: point.id, name: point.name, ...(own ? standingOf(rung, latest(own), point.basis) : nothingSeen) }
  })
}

/** What evidence makes of a rung; `undefined` while there is none. */
type Whole = Pick<RungOnLadder, 'state' | 'because' | 'missing' | 'changes'> | undefined

function ofOne(rung: RungFacts, { state, because, changes }: Standing): Whole {
  switch (state) {
    case 'open':
      return undefined
    case 'proven':
      return { state, because, missing: '', changes }
    case 'at-odds':
      return { state, because, missing: `Put it right and see it again. ${toBeSeen(rung)}`, changes }
    case 'changed':
      return { state: 'in-hand', because, missing: `See it again. ${toBeSeen(rung)}`, changes }
  }
}

/** A rung that asks for every point: proven when each is, at odds as soon as one is. */
function ofPoints(rung: RungFacts, points: readonly PointOnRung[]): Whole {
  const [first, ...others] = points
  if (first && others.length === 0) return ofOne(rung, first)
  const at = (state: Standing['state']) => points.filter((point) => point.state === state)
  const names = (some: readonly PointOnRung[]) => some.map((point) => point.name).join(', ')
  const [proven, odds, changed, open] = [at('proven'), at('at-odds'), at('changed'), at('open')]
  if (points.length === open.length) return undefined
  const changes = changed.flatMap((point) => point.changes)
  const count = `${proven.length} of ${points.length} points proven`
  if (odds.length > 0) {
    const because = `${count}; at odds: ${names(odds)}. ${odds[0]?.because ?? ''}`
    return { state: 'at-odds', because, missing: `Put it right and see it again. ${toBeSeen(rung)}`, changes }
  }
  if (proven.length === points.length)
    return { state: 'proven', because: `All ${points.length} points proven: ${names(points)}.`, missing: '', changes }
  const because = changed.length > 0 ? `${count}. ${changed[0]?.name}: ${changed[0]?.because}` : `${count}.`
  return { state: 'in-hand', because, missing: `Still to be seen: ${names([...changed, ...open])}.`, changes }
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
