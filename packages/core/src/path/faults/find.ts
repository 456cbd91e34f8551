import type { HopExplanation } from './fault'
import type { PathHop, PathSeen, WordHop } from './hops'
import { faultsFromValues, faultsFromWords, meantBy, showsThat } from './valueFaults'
import { follows, wordFaults } from './wordFaults'

/** What a hop comes to, held against the last one before it that was seen. */
export interface HopFinding {
  readonly name: string
  /** The hop it was held against. */
  readonly against: string
  readonly verdict: 'as-planned' | 'explained' | 'unexplained' | 'not-conclusive'
  /** Simplest first; those at the front that cost the same stand as equal. */
  readonly explanations: readonly HopExplanation[]
  readonly equals: readonly HopExplanation[]
  /** Moments at which both were seen. */
  readonly compared: number
}

export interface PathFinding {
  readonly hops: readonly HopFinding[]
  /** The first hop that differs from what the one before it should make of it. */
  readonly firstAt: string | undefined
  readonly verdict: HopFinding['verdict']
}

const costOf = ({ faults, uncommon }: HopExplanation) => 100 * faults.length + uncommon

/**
 * Follows a point from hop to hop. Each hop is held against what was seen at the one before, so that two faults at two
 * hops are found one by one; at one hop up to two faults are tried together.
 */
export function findFaults(path: PathSeen): PathFinding {
  const hops: HopFinding[] = []
  let before: PathHop | undefined
  for (const hop of path.hops) {
    if (before) hops.push(findAt(before, hop, path))
    // A hop that nobody saw is bridged: the next one is held against the last that was seen.
    if (!before || hop.samples.some((sample) => sample !== undefined)) before = hop
  }
  const wrong = hops.find(({ verdict }) => verdict === 'explained' || verdict === 'unexplained')
  const open = hops.length === 0 || hops.some(({ verdict }) => verdict === 'not-conclusive')
  return {
    hops,
    firstAt: wrong?.name,
    verdict: wrong ? wrong.verdict : open ? 'not-conclusive' : 'as-planned',
  }
}

function findAt(before: PathHop, hop: PathHop, path: PathSeen): HopFinding {
  const named = { name: hop.name, against: before.name }
  const { compared, isAsPlanned, found } = compare(before, hop, path)
  if (compared === 0) return { ...named, verdict: 'not-conclusive', explanations: [], equals: [], compared }
  if (isAsPlanned) return { ...named, verdict: 'as-planned', explanations: [], equals: [], compared }
  const explanations = [...found].sort((a, b) => costOf(a) - costOf(b))
  const [first] = explanations
  const equals = first ? explanations.filter((each) => costOf(each) === costOf(first)) : []
  return { ...named, verdict: first ? 'explained' : 'unexplained', explanations, equals, compared }
}

function compare(before: PathHop, hop: PathHop, path: PathSeen) {
  const compared = hop.samples.filter((sample, k) => sample !== undefined && before.samples[k] !== undefined).length
  if (hop.kind === 'words') {
    // A number never turns back into words here: what people type is the last to be looked at.
    if (before.kind !== 'words') return { compared: 0, isAsPlanned: false, found: [] }
    const { seen, should, found, compared } = wordFaults(before, hop, path.registers, path.others)
    return { compared, isAsPlanned: follows(seen, should), found }
  }
  const should = before.kind === 'words' ? meantBy(before, path) : before.samples
  const isAsPlanned = showsThat(hop.samples, should, hop.allowed)
  const found = isAsPlanned ? [] : fromEither(before, hop, path)
  return { compared, isAsPlanned, found }
}

const fromEither = (before: WordHop | PathHop, hop: Extract<PathHop, { kind: 'value' }>, path: PathSeen) =>
  before.kind === 'words' ? faultsFromWords(before, hop, path) : faultsFromValues(before.samples, hop, path)
