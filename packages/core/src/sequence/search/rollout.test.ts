import { compileJob, startState } from '../model'
import { actionOf } from '../translate'
import { powerJob, randomJob, replayed } from '../fixtures'
import { jobOf } from '../fixtures/jobs'
import { remainingOf } from './bound'
import { straightOn } from './rollout'

const never = () => false

describe('straight on, without looking back', () => {
  test.each([
    ['scarce addresses', (seed: number) => randomJob(seed * 7, 5, 5)],
    ['much waits for power', (seed: number) => powerJob(seed * 11, 5)],
  ])('what it finds can be followed and costs no less than the bound: %s', (_name, make) => {
    let found = 0
    for (let seed = 1; seed <= 60; seed += 1) {
      const job = make(seed)
      const compiled = compileJob(job)
      const plan = straightOn(compiled, startState(compiled), never)
      if (!plan) continue
      found += 1
      const actions = plan.moves.map((move) => actionOf(compiled, move))
      expect({ seed, wrong: replayed(job, actions) }).toEqual({ seed, wrong: [] })
      expect(plan.cost).toBeGreaterThanOrEqual(remainingOf(compiled, startState(compiled)).weighed)
    }
    expect(found).toBeGreaterThan(10)
  })

  test('thirty twins of six kinds behind three breakers: leads are pulled and plugged', () => {
    const job = jobOf(
      Array.from({ length: 30 }, (_, k) => ({
        id: `D${k}`,
        from: `192.168.1.${20 + (k % 6)}`,
        to: `10.20.40.${20 + k}`,
        groupId: `Q${k % 3}`,
        effect: k % 3 === 2 ? ('power-cycle' as const) : ('at-once' as const),
      })),
    )
    const compiled = compileJob(job)
    const plan = straightOn(compiled, startState(compiled), never)
    const actions = plan?.moves.map((move) => actionOf(compiled, move)) ?? []
    expect(replayed(job, actions)).toEqual([])
    expect(actions.filter((action) => action.kind === 'lead-out').length).toBeGreaterThanOrEqual(24)
  })
})
