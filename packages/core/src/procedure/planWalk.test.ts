import { largeBringUp, mixedBringUp, powerJob } from '../sequence/fixtures'
import { planWalk } from '.'

const spent = (job: Parameters<typeof planWalk>[0], milliseconds: number, people: 1 | 2 = 1) => {
  const plan = planWalk(job, [], [], people, milliseconds)
  if (!('answer' in plan)) throw new Error('no order')
  return { actions: plan.answer.actions, starts: plan.schedule.starts, proven: plan.answer.proven }
}

describe('the time given to a plan', () => {
  test.each([1, 2, 3, 4, 5, 6])(
    'a small job is planned the same on a machine that is slow beyond measure: %i',
    (seed) => {
      const job = powerJob(seed, 5)
      for (const people of [1, 2] as const) expect(spent(job, 0, people)).toEqual(spent(job, Infinity, people))
    },
  )

  test('a dozen devices from three subnets too, order and times', () => {
    const job = largeBringUp(12, 3)
    expect(spent(job, 0)).toEqual(spent(job, Infinity))
  })

  test('of a large job the time decides, and what was not seen through is not called proven', () => {
    const plan = spent(mixedBringUp(60, 1), 0)
    expect(plan.actions.length).toBeGreaterThan(60)
    expect(plan.proven).toBe(false)
  })
})
