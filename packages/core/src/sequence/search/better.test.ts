import { compileJob, costOf, startState, type BringUpJob, type Move } from '../model'
import {
  exhaustiveBringUp,
  crowdedBringUp,
  largeBringUp,
  mixedBringUp,
  powerJob,
  randomJob,
  replayed,
  withFrozen,
} from '../fixtures'
import { actionOf } from '../translate'
import { betterPlan } from './better'
import { remainingOf } from './bound'
import { straightOn } from './rollout'
import { fewerVisits } from './visits'

const never = () => false
const weighed = (job: BringUpJob, moves: readonly Move[]) =>
  moves.reduce((sum, move) => sum + costOf(compileJob(job), move), 0)

function plansOf(job: BringUpJob, rounds = 20) {
  const compiled = compileJob(job)
  const start = startState(compiled)
  const straight = straightOn(compiled, start, never)
  if (!straight) return undefined
  const best = betterPlan(compiled, start, straight, remainingOf(compiled, start).weighed, rounds, never)
  const wrong = replayed(
    job,
    best.moves.map((move) => actionOf(compiled, move)),
  )
  return { compiled, start, straight, best, wrong }
}

describe('a plan made better', () => {
  it.each([
    ['scarce addresses, some not in the order', (seed: number) => withFrozen(randomJob(seed, 5, 5), seed), 160, 10],
    ['much that waits for power', (seed: number) => powerJob(seed, 6), 60, 30],
    ['shared breakers', (seed: number) => mixedBringUp(20, seed), 12, 6],
  ])('is legal on the plant, costs what it says and never more than before: %s', (_, jobFor, count, least) => {
    let seen = 0
    for (let seed = 1; seed <= count; seed += 1) {
      const job = jobFor(seed)
      const found = plansOf(job)
      if (!found) continue
      seen += 1
      expect({ seed, wrong: found.wrong }).toEqual({ seed, wrong: [] })
      expect(found.best.cost).toBe(weighed(job, found.best.moves))
      expect(found.best.cost).toBeLessThanOrEqual(found.straight.cost)
    }
    expect(seen).toBeGreaterThan(least)
  })

  // Beside the exhaustive search of fixtures/exhaustive.ts, which knows nothing of the planner.
  it('never costs less than the search of everything finds, and mostly as little', () => {
    const seen = { compared: 0, least: 0 }
    for (let seed = 1; seed <= 60; seed += 1) {
      const job = { ...randomJob(seed * 3, 2, 4), preference: 'seconds' as const }
      const found = plansOf(job)
      const all = exhaustiveBringUp(job, 400_000)
      if (!found || !all) continue
      seen.compared += 1
      const seconds = Math.floor(found.best.cost / 1e9)
      expect(seconds).toBeGreaterThanOrEqual(all.measures[0] ?? Infinity)
      if (seconds === all.measures[0]) seen.least += 1
    }
    expect(seen.compared).toBeGreaterThan(15)
    expect(seen.least / seen.compared).toBeGreaterThan(0.8)
  })

  it('brings the visits of the laptop together where going straight on runs to and fro', () => {
    const job = crowdedBringUp(30, 6, 3)
    const found = plansOf(job, 0)
    if (!found) throw new Error('no plan')
    const visits = (moves: readonly Move[]) => moves.filter(({ kind }) => kind === 'laptop').length
    expect(visits(found.straight.moves)).toBeGreaterThan(5)
    // Into the factory subnet and into that of the plan: no order can do with fewer.
    expect(visits(found.best.moves)).toBe(2)
    expect(fewerVisits(found.compiled, found.start, found.best.moves, 12)).toBeUndefined()
  })

  it('ends at the bound, where no round is needed', () => {
    const found = plansOf(largeBringUp(40, 12), 40)
    if (!found) throw new Error('no plan')
    expect(found.best.cost).toBe(remainingOf(found.compiled, found.start).weighed)
  })
})
