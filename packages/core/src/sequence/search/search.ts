import { remainingOf } from './bound'
import { type CompiledJob, copyOf, costOf, isDone, keyOf, type Move, type State } from '../model'
import { makeForced } from './forced'
import { betterPlan } from './better'
import { straightOn, type Straight } from './rollout'
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

/** Shares of the time after which proof, a plan without leads, a good plan, any plan, and a better one are given up. */
const SHARES = { proof: 0.2, plain: 0.5, good: 0.65, any: 0.8, better: 0.95 }

/** Plans tried instead of the best so far: before a proof is sought, and after it was given up. */
const ROUNDS = { first: 12, more: 400 }

function effortFor(deviceCount: number, effort: number): number {
  const size = Math.max(1, deviceCount / SMALL)
  return Math.max(Math.min(effort, LEAST_EFFORT), Math.round(effort / (size * size)))
}

/**
 * The cheapest plan from a state to the end. A plan that was found straight on, and made better, is the one to beat:
 * A* looks for a cheaper one, or for the proof that there is none. Where the effort does not suffice, more plans near the
 * best one are tried, and the best bound reached stands beside it.
 */
export function searchFrom(compiled: CompiledJob, start: State, limits: Limits = { states: USUAL_EFFORT }): Found {
  if (wantsOneAddressTwice(compiled))
    return { moves: undefined, cost: Infinity, bound: Infinity, proven: true, looked: 0 }
  const walked = compiled.devices.reduce((count, { frozen }) => count + (frozen ? 0 : 1), 0)
  const effort = effortFor(walked, limits.states)
  const isPast = (share: number) => limits.used !== undefined && limits.used() > share
  const least = remainingOf(compiled, start).weighed
  const better = (plan: Straight, bound: number, rounds: number, share: number) =>
    betterPlan(compiled, start, plan, bound, rounds, () => isPast(share))
  const straight = straightOn(compiled, start, () => isPast(SHARES.good))
  const first = straight && better(straight, least, ROUNDS.first, SHARES.proof)
  if (first && first.cost <= least) return { ...first, bound: first.cost, proven: true, looked: 0 }
  const ceiling = first?.cost ?? Infinity
  const exact = run(compiled, start, { greed: 1, ways: 'all', effort, ceiling, isLate: () => isPast(SHARES.proof) })
  if (exact.moves || (exact.exhausted && !first)) return { ...exact, proven: true }
  // Nothing that could be cheaper is left to look at.
  if (exact.exhausted && first) return { ...first, bound: first.cost, proven: true, looked: exact.looked }
  const found = first ?? greedily(compiled, start, effort, isPast)
  if (!found) return { moves: undefined, cost: Infinity, bound: exact.bound, proven: false, looked: exact.looked }
  // As much work as so many states are.
  const rounds = Math.min(ROUNDS.more, Math.ceil(effort / 10))
  const best = better(found, exact.bound, rounds, SHARES.better)
  return { ...best, bound: exact.bound, proven: best.cost <= exact.bound, looked: exact.looked }
}

/** A* alone, with nothing to beat: what each of its shortcuts is held against. */
export const exactFrom = (compiled: CompiledJob, start: State, effort: number): Run =>
  run(compiled, start, { greed: 1, ways: 'all', effort, ceiling: Infinity, isLate: () => false })

/** At the end all are live: two that are to have one address would hold it both, wherever the laptop's cable is. */
function wantsOneAddressTwice(compiled: CompiledJob): boolean {
  const walked = compiled.devices.filter(({ frozen }) => !frozen)
  return new Set(walked.map(({ target }) => compiled.addressOf[target])).size < walked.length
}

/** Whether a plan is found by going straight on: then there is one. Otherwise nothing is said. */
export const isPlainlyPossible = (compiled: CompiledJob, start: State): boolean =>
  !wantsOneAddressTwice(compiled) && straightOn(compiled, start, () => false) !== undefined

/** Any plan, where going straight on ends nowhere: a greedy search goes almost straight, some states for each thing to do. */
function greedily(
  compiled: CompiledJob,
  start: State,
  effort: number,
  isPast: (share: number) => boolean,
): Straight | undefined {
  const longest = 2 * (compiled.devices.length + compiled.members.length)
  for (const [greed, ways, share] of [
    [1.5, 'plain', SHARES.plain],
    [1.5, 'all', SHARES.good],
    [5, 'all', SHARES.any],
  ] as const) {
    const most = Math.max(effort / 4, longest)
    const manner = { greed, ways, effort: most, ceiling: Infinity, isLate: () => isPast(share) }
    const { moves, cost } = run(compiled, start, manner)
    if (moves) return { moves, cost }
  }
  return undefined
}

export interface Run extends Omit<Found, 'proven'> {
  readonly exhausted: boolean
}

interface Manner {
  /** How much more what is left counts than what is spent: 1 for a proof, more for an early end. */
  readonly greed: number
  readonly effort: number
  /** What a plan must cost less than. */
  readonly ceiling: number
  readonly isLate: () => boolean
  readonly ways: Ways
}

function run(compiled: CompiledJob, start: State, { greed, effort, ceiling, isLate, ways }: Manner): Run {
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
    if (total + left >= ceiling) return
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
      if (spent + left >= ceiling) continue
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
