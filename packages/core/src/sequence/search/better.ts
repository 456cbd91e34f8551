import { chance } from '../chance'
import { apply, type CompiledJob, copyOf, costOf, type Move, type State } from '../model'
import { someTaste, straightOn, type Straight } from './rollout'
import { fewerVisits } from './visits'

/** Ways on that are kept where the laptop goes, for a plan that is one of many, and for the best. */
const WIDTH = { one: 3, best: 12 }

/**
 * Makes a plan cheaper: its beginning is kept up to somewhere, the rest is done straight on by another taste, and the
 * laptop's visits are brought together. What is no dearer is gone on with.
 *
 * @param bound no plan costs less: at that it ends
 * @param rounds how many others are tried
 */
export function betterPlan(
  compiled: CompiledJob,
  start: State,
  first: Straight,
  bound: number,
  rounds: number,
  isLate: () => boolean,
): Straight {
  const next = chance(7)
  let best = withFewerVisits(compiled, start, first, WIDTH.best)
  for (let round = 0; round < rounds && best.cost > bound && !isLate(); round += 1) {
    const kept = next(4) === 0 ? 0 : next(best.moves.length)
    const state = copyOf(start)
    const beginning = best.moves.slice(0, kept)
    for (const move of beginning) apply(compiled, state, move)
    const rest = straightOn(compiled, state, isLate, someTaste(compiled, next))
    if (!rest) continue
    const moves = [...beginning, ...rest.moves]
    const tried = withFewerVisits(compiled, start, { moves, cost: sum(compiled, moves) }, WIDTH.one)
    if (tried.cost <= best.cost) best = tried
  }
  return withFewerVisits(compiled, start, best, WIDTH.best)
}

function withFewerVisits(compiled: CompiledJob, start: State, plan: Straight, width: number): Straight {
  const moves = fewerVisits(compiled, start, plan.moves, width)
  return moves ? { moves, cost: sum(compiled, moves) } : plan
}

const sum = (compiled: CompiledJob, moves: readonly Move[]) =>
  moves.reduce((total, move) => total + costOf(compiled, move), 0)
