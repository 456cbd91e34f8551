import { remainingOf } from './bound'
import { type CompiledJob, copyOf, costOf, isDone, keyOf, type Move, type State } from '../model'
import { makeForced } from './forced'
import { Heap } from './heap'
import { stepsFrom } from './successors'

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
  readonly parent: Node | undefined
  readonly moves: readonly Move[]
}

/** States of a small job looked at before proof is given up; of a larger job fewer, as each takes longer. */
export const USUAL_EFFORT = 60_000
/** Up to this many devices a job is small. */
const SMALL = 10
const LEAST_EFFORT = 200

function effortFor(deviceCount: number, effort: number): number {
  const size = Math.max(1, deviceCount / SMALL)
  return Math.max(Math.min(effort, LEAST_EFFORT), Math.round(effort / (size * size)))
}

/**
 * The cheapest plan from a state to the end, by A*. Where the effort does not suffice for a proof, a greedier search
 * gives a good plan, and the best bound reached so far stands beside it.
 */
export function searchFrom(compiled: CompiledJob, start: State, most = USUAL_EFFORT): Found {
  // At the end all are live: two that are to have one address would hold it both, wherever the laptop's cable is.
  const targets = new Set(compiled.devices.map(({ target }) => compiled.addressOf[target]))
  if (targets.size < compiled.devices.length)
    return { moves: undefined, cost: Infinity, bound: Infinity, proven: true, looked: 0 }
  const effort = effortFor(compiled.devices.length, most)
  const exact = run(compiled, start, 1, effort)
  if (exact.moves || exact.exhausted) return { ...exact, proven: true }
  let best: Run | undefined
  // A greedy search goes almost straight: some states for each thing that has to be done.
  const longest = 2 * (compiled.devices.length + compiled.members.length)
  for (const greed of [1.5, 5]) {
    const tried = run(compiled, start, greed, Math.max(effort / 4, longest), best?.cost)
    if (tried.moves && (!best || tried.cost < best.cost)) best = tried
    if (best) break
  }
  const looked = exact.looked + (best?.looked ?? 0)
  if (!best?.moves) return { moves: undefined, cost: Infinity, bound: exact.bound, proven: false, looked }
  return { moves: best.moves, cost: best.cost, bound: exact.bound, proven: best.cost <= exact.bound, looked }
}

interface Run extends Omit<Found, 'proven'> {
  readonly exhausted: boolean
}

function run(compiled: CompiledJob, start: State, greed: number, effort: number, ceiling = Infinity): Run {
  const first = copyOf(start)
  const opening: Move[] = []
  makeForced(compiled, first, opening)
  const spent = opening.reduce((sum, move) => sum + costOf(compiled, move), 0)
  const least = remainingOf(compiled, first).weighed
  const open = new Heap<Node>((a, b) => a.estimate < b.estimate || (a.estimate === b.estimate && a.spent > b.spent))
  const cheapest = new Map<string, number>([[keyOf(compiled, first), spent]])
  open.push({ state: first, spent, estimate: spent + greed * least, parent: undefined, moves: opening })
  let looked = 0
  let bound = spent + least
  for (let node = open.pop(); node; node = open.pop()) {
    if ((cheapest.get(keyOf(compiled, node.state)) ?? Infinity) < node.spent) continue
    if (greed === 1) bound = Math.max(bound, node.estimate)
    if (isDone(node.state)) return { moves: movesOf(node), cost: node.spent, bound, looked, exhausted: false }
    looked += 1
    if (looked > effort) return { moves: undefined, cost: Infinity, bound, looked, exhausted: false }
    for (const step of stepsFrom(compiled, node.state)) {
      const total = node.spent + step.cost
      const key = keyOf(compiled, step.state)
      if ((cheapest.get(key) ?? Infinity) <= total || total >= ceiling) continue
      cheapest.set(key, total)
      const left = remainingOf(compiled, step.state).weighed
      open.push({ state: step.state, spent: total, estimate: total + greed * left, parent: node, moves: step.moves })
    }
  }
  return { moves: undefined, cost: Infinity, bound: Infinity, looked, exhausted: true }
}

function movesOf(node: Node): readonly Move[] {
  const parts: (readonly Move[])[] = []
  for (let each: Node | undefined = node; each; each = each.parent) parts.push(each.moves)
  return parts.reverse().flat()
}
