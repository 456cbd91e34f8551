import { remainingOf } from './bound'
import { type CompiledJob, copyOf, costOf, isDone, keyOf, type Move, type State } from '../model'
import { makeForced } from './forced'
import { straightOn } from './rollout'
import { Heap } from './heap'
import { stepOf, stepsFrom, type Step, type Ways } from './successors'

/** What a search found. `bound` is the weighed cost that no plan can be below. */
export interface Found {
  readonly moves: readonly Move[] | undefined
  readonly cost: number
  readonly bound: number
  readonly proven: boolean
  /** States looked at. */
  readonly looked: number
}

interface Node {
  readonly state: State
  readonly spent: number
  readonly estimate: number
  /** What is left at least. */
  readonly left: number
  readonly parent: Node | undefined
  readonly moves: readonly Move[]
  /** A move from the state that has not been made yet. */
  readonly later?: Move
}

/** States of a small job looked at before proof is given up; of a larger job fewer, as each takes longer. */
export const USUAL_EFFORT = 60_000
/** Up to this many devices a job is small. */
const SMALL = 10
const LEAST_EFFORT = 200

/** How long a search may take. */
export interface Limits {
  /** States of a small job looked at before proof is given up. */
  readonly states: number
  /** The share of the time given that is used up, from 0 on; left out where time does not count. */
  readonly used?: () => number
}

/** Shares of the time after which proof, a plan without leads, a good plan, and any plan are given up. */
const SHARES = { proof: 0.45, plain: 0.6, good: 0.75, any: 0.9 }

function effortFor(deviceCount: number, effort: number): number {
  const size = Math.max(1, deviceCount / SMALL)
  return Math.max(Math.min(effort, LEAST_EFFORT), Math.round(effort / (size * size)))
}

/**
 * The cheapest plan from a state to the end, by A*. Where the effort does not suffice for a proof, a greedier search
 * gives a good plan, and the best bound reached so far stands beside it.
 */
export function searchFrom(compiled: CompiledJob, start: State, limits: Limits = { states: USUAL_EFFORT }): Found {
  // At the end all are live: two that are to have one address would hold it both, wherever the laptop's cable is.
  const walked = compiled.devices.filter(({ frozen }) => !frozen)
  const targets = new Set(walked.map(({ target }) => compiled.addressOf[target]))
  if (targets.size < walked.length)
    return { moves: undefined, cost: Infinity, bound: Infinity, proven: true, looked: 0 }
  const effort = effortFor(walked.length, limits.states)
  const isPast = (share: number) => limits.used !== undefined && limits.used() > share
  const exact = run(compiled, start, { greed: 1, ways: 'all', effort, isLate: () => isPast(SHARES.proof) })
  if (exact.moves || exact.exhausted) return { ...exact, proven: true }
  let best: Pick<Run, 'moves' | 'cost'> | undefined = straightOn(compiled, start, () => isPast(SHARES.good))
  let looked = exact.looked
  // A greedy search goes almost straight: some states for each thing that has to be done.
  const longest = 2 * (compiled.devices.length + compiled.members.length)
  for (const [greed, ways, share] of [
    [1.5, 'plain', SHARES.plain],
    [1.5, 'all', SHARES.good],
    [5, 'all', SHARES.any],
  ] as const) {
    const most = Math.max(effort / 4, longest)
    const tried = run(compiled, start, { greed, ways, effort: most, isLate: () => isPast(share) })
    looked += tried.looked
    if (!tried.moves) continue
    if (!best || tried.cost < best.cost) best = tried
    break
  }
  if (!best?.moves) return { moves: undefined, cost: Infinity, bound: exact.bound, proven: false, looked }
  return { moves: best.moves, cost: best.cost, bound: exact.bound, proven: best.cost <= exact.bound, looked }
}

interface Run extends Omit<Found, 'proven'> {
  readonly exhausted: boolean
}

interface Manner {
  /** How much more what is left counts than what is spent: 1 for a proof, more for an early end. */
  readonly greed: number
  readonly effort: number
  readonly isLate: () => boolean
  readonly ways: Ways
}

function run(compiled: CompiledJob, start: State, { greed, effort, isLate, ways }: Manner): Run {
  const first = copyOf(start)
  const opening: Move[] = []
  makeForced(compiled, first, opening)
  const spent = opening.reduce((sum, move) => sum + costOf(compiled, move), 0)
  const least = remainingOf(compiled, first).weighed
  const open = new Heap<Node>((a, b) => a.estimate < b.estimate || (a.estimate === b.estimate && a.spent > b.spent))
  const cheapest = new Map<string, number>([[keyOf(compiled, first), spent]])
  open.push({ state: first, spent, estimate: spent + greed * least, left: least, parent: undefined, moves: opening })
  const take = (node: Node, step: Step): void => {
    const total = node.spent + step.cost
    const key = keyOf(compiled, step.state)
    if ((cheapest.get(key) ?? Infinity) <= total) return
    cheapest.set(key, total)
    const left = step.more === undefined ? remainingOf(compiled, step.state).weighed : node.left + step.more
    open.push({
      state: step.state,
      spent: total,
      estimate: total + greed * left,
      left,
      parent: node,
      moves: step.moves,
    })
  }
  let looked = 0
  let bound = spent + least
  for (let node = open.pop(); node; node = open.pop()) {
    if (node.later) {
      take(node.parent ?? node, stepOf(compiled, node.state, node.later))
      continue
    }
    if ((cheapest.get(keyOf(compiled, node.state)) ?? Infinity) < node.spent) continue
    if (greed === 1) bound = Math.max(bound, node.estimate)
    if (isDone(compiled, node.state)) return { moves: movesOf(node), cost: node.spent, bound, looked, exhausted: false }
    looked += 1
    if (looked > effort || isLate()) return { moves: undefined, cost: Infinity, bound, looked, exhausted: false }
    for (const step of stepsFrom(compiled, node.state, ways)) {
      if (!('later' in step)) {
        take(node, step)
        continue
      }
      const spent = node.spent + step.cost
      const left = node.left + step.more
      open.push({ ...node, spent, left, estimate: spent + greed * left, parent: node, later: step.later })
    }
  }
  return { moves: undefined, cost: Infinity, bound: Infinity, looked, exhausted: true }
}

function movesOf(node: Node): readonly Move[] {
  const parts: (readonly Move[])[] = []
  for (let each: Node | undefined = node; each; each = each.parent) parts.push(each.moves)
  return parts.reverse().flat()
}
