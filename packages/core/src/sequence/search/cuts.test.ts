import { exhaustiveBringUp } from '../fixtures/exhaustive'
import { ipv4 } from '../../address'
import { host, powerJob, randomJob } from '../fixtures'
import { jobOf } from '../fixtures/jobs'
import { allCuts, compileJob, cuts, cutsBuiltOn, startState, type BringUpJob, type Cut } from '../model'
import { planBringUp } from '../planBringUp'
import { exactFrom } from './search'

/** All but one, and but those that build on it. */
const without = (cut: Cut) => new Set([...allCuts].filter((each) => each !== cut && !cutsBuiltOn[each]?.includes(cut)))

/** The weighed cost of the best plan, `none` where there is none, `undefined` where the effort was not enough. */
function least(job: BringUpJob, kept: ReadonlySet<Cut>): number | 'none' | undefined {
  const compiled = compileJob(job, kept)
  const found = exactFrom(compiled, startState(compiled), 20_000)
  if (found.moves) return found.cost
  return found.exhausted ? 'none' : undefined
}

const JOBS = 60
const jobs = [2, 3, 4].flatMap((count) =>
  Array.from({ length: JOBS }, (_, k) => [
    { name: `scarce ${count} ${k}`, job: randomJob(k * 17 + count, count, 4) },
    { name: `power ${count} ${k}`, job: powerJob(k * 19 + count, count) },
  ]).flat(),
)
const withAll = jobs.map(({ job }) => least(job, allCuts))

describe('each shortcut of the search, with it and without it', () => {
  test.each(Object.entries(cuts) as [Cut, string][])('%s: %s', (cut) => {
    let compared = 0
    jobs.forEach(({ name, job }, k) => {
      const plain = least(job, without(cut))
      if (plain === undefined || withAll[k] === undefined) return
      compared += 1
      expect({ name, cost: withAll[k] }).toEqual({ name, cost: plain })
    })
    expect(compared).toBeGreaterThan(0.8 * jobs.length)
  })
})

test.each([
  // A breaker at hand is switched twice, and the laptop never comes back; one far away is switched once.
  [20, { powerActions: 4, laptopChanges: 1 }],
  [30, { powerActions: 2, laptopChanges: 2 }],
])('leaving a subnet where something waits for power is tried both ways: a breaker of %i s', (seconds, cost) => {
  const one = { groupId: 'Q1', effect: 'power-cycle', power: { live: true, seconds, chained: true } } as const
  const job = jobOf(
    [
      { id: 'A', from: '10.0.0.20', to: '10.0.0.21', ...one },
      { id: 'B', from: '10.0.1.20', to: '10.0.1.21', ...one },
    ],
    { laptop: { subnets: [host('10.0.0.9', 24)], holds: 1 } },
  )
  expect(planBringUp(job)).toMatchObject({ cost, proven: true })
  expect(
    exhaustiveBringUp({
      ...job,
      reserved: [
        { first: ipv4('10.0.0.22'), last: ipv4('10.0.0.253') },
        { first: ipv4('10.0.1.22'), last: ipv4('10.0.1.253') },
        { first: ipv4('10.0.0.1'), last: ipv4('10.0.0.19') },
        { first: ipv4('10.0.1.1'), last: ipv4('10.0.1.19') },
      ],
    })?.measures.slice(1, 3),
  ).toEqual([cost.laptopChanges, cost.powerActions])
})

test('where much waits for power, the order costs exactly what the search of everything finds', () => {
  const seen = { compared: 0, impossible: 0, tooMany: 0 }
  for (const [count, jobCount] of [
    [2, 36],
    [3, 6],
  ] as const)
    for (let seed = 1; seed <= jobCount; seed += 1) {
      const job = powerJob(seed * 23 + count, count)
      let all: ReturnType<typeof exhaustiveBringUp>
      try {
        all = exhaustiveBringUp(job, 12_000)
      } catch {
        seen.tooMany += 1
        continue
      }
      const [first = 0, second = 0, third = 0, fourth = 0] = all?.measures ?? []
      // The weight of a plan, from the measures in the order in which the job compares them.
      const weighed =
        job.preference === 'seconds'
          ? first * 1e9 + second * 1e6 + third * 1e3 + fourth
          : first * 1e12 + second * 1e9 + third * 1e6 + fourth
      seen[all ? 'compared' : 'impossible'] += 1
      expect({ seed, count, cost: least(job, allCuts) }).toEqual({ seed, count, cost: all ? weighed : 'none' })
    }
  expect(seen.compared).toBeGreaterThan(18)
  expect(seen.tooMany).toBeLessThan(24)
})
