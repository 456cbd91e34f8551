import { bringUp } from '../bringUp'
import { largeBringUp } from '../fixtures/jobs'
import { seeded } from '../fixtures/randomJob'
import { precedenceOf } from './precedence'
import { reduced } from './reduced'
import { scheduleOf, type Task } from './schedule'

function randomTasks(seed: number, count: number): readonly Task[] {
  const random = seeded(seed)
  const whole = (below: number) => Math.floor(random() * below)
  return Array.from({ length: count }, (_, index) => ({
    seconds: whole(4),
    needsLaptop: random() < 0.4,
    zone: random() < 0.5 ? `Q${whole(2)}` : null,
    waits: Array.from({ length: index }, (_, after) => after).flatMap((after) =>
      random() < 0.35 ? [{ after, seconds: random() < 0.5 ? whole(5) : 0 }] : [],
    ),
  }))
}

/** What is wrong with starts, looked at second by second. */
function wrongWith(tasks: readonly Task[], starts: readonly number[], people: number): readonly string[] {
  const wrong: string[] = []
  const at = (index: number) => starts[index] as number
  tasks.forEach((task, index) => {
    for (const { after, seconds } of task.waits)
      if (at(index) < at(after) + (tasks[after] as Task).seconds + seconds)
        wrong.push(`${index} does not wait for ${after}`)
  })
  const end = Math.max(...tasks.map((task, index) => at(index) + task.seconds))
  for (let second = 0; second < end; second += 1) {
    const running = tasks.filter((task, index) => at(index) <= second && second < at(index) + task.seconds)
    if (running.length > people) wrong.push(`${running.length} at ${second}`)
    if (running.filter((task) => task.needsLaptop).length > 1) wrong.push(`two laptops at ${second}`)
    if (new Set(running.flatMap((task) => task.zone ?? [])).size > 1) wrong.push(`two zones at ${second}`)
  }
  tasks.forEach((task, index) => {
    if (task.seconds > 0 || !task.needsLaptop) return
    const inside = tasks.some(
      (other, each) => other.needsLaptop && at(each) < at(index) && at(index) < at(each) + other.seconds,
    )
    if (inside) wrong.push(`${index} looks while the laptop is taken`)
  })
  return wrong
}

/** The earliest finish, by trying every start of every task, second by second. */
function bruteFinish(tasks: readonly Task[], people: number, horizon: number): number {
  let best = horizon
  const starts: number[] = []
  const place = (index: number): void => {
    if (index === tasks.length) {
      if (wrongWith(tasks, starts, people).length === 0)
        best = Math.min(best, Math.max(...tasks.map((task, each) => (starts[each] as number) + task.seconds)))
      return
    }
    const task = tasks[index] as Task
    const ready = Math.max(
      0,
      ...task.waits.map(({ after, seconds }) => (starts[after] as number) + (tasks[after] as Task).seconds + seconds),
    )
    for (let start = ready; start + task.seconds < best; start += 1) {
      starts[index] = start
      place(index + 1)
    }
    starts.length = index
  }
  place(0)
  return best
}

describe('the schedule', () => {
  it.each([1, 2] as const)('finishes as early as any, by brute force over all starts, for %i at work', (people) => {
    for (let seed = 1; seed <= 120; seed += 1) {
      const tasks = randomTasks(seed, 5)
      const made = scheduleOf(tasks, people)
      expect({ seed, wrong: wrongWith(tasks, made.starts, people), proven: made.proven }).toEqual({
        seed,
        wrong: [],
        proven: true,
      })
      // The horizon is one more than the plan found: brute force can only find it, or something earlier.
      expect({ seed, finish: bruteFinish(tasks, people, made.finish + 1) }).toEqual({ seed, finish: made.finish })
      expect(made.bound).toBeLessThanOrEqual(made.finish)
    }
  })

  it('leaves out only waits that follow from others: what it keeps gives the same earliest starts', () => {
    let [before, after] = [0, 0]
    for (let seed = 1; seed <= 60; seed += 1) {
      const tasks = randomTasks(seed, 12)
      const kept = reduced(tasks)
      const heads = (list: readonly Task[]) =>
        list.reduce<readonly number[]>((starts, task) => {
          const ready = task.waits.map(
            ({ after: of, seconds }) => (starts[of] ?? 0) + (list[of]?.seconds ?? 0) + seconds,
          )
          return [...starts, Math.max(0, ...ready)]
        }, [])
      expect(heads(kept)).toEqual(heads(tasks))
      // Whatever starts are right by the waits that are kept are right by all of them.
      const random = seeded(seed)
      const loose = kept.reduce<readonly number[]>((starts, task) => {
        const ready = task.waits.map(({ after: of, seconds }) => (starts[of] ?? 0) + (kept[of]?.seconds ?? 0) + seconds)
        return [...starts, Math.max(0, ...ready) + Math.floor(random() * 5)]
      }, [])
      expect(wrongWith(tasks, loose, 99).filter((each) => each.includes('wait'))).toEqual([])
      before += tasks.reduce((sum, { waits }) => sum + waits.length, 0)
      after += kept.reduce((sum, { waits }) => sum + waits.length, 0)
    }
    expect(after).toBeLessThan(before)
  })

  it('makes a first schedule even when its time is over, and says that it is not proven', () => {
    const tasks = randomTasks(3, 14)
    const made = scheduleOf(tasks, 1, 0, undefined, () => true)
    expect(wrongWith(tasks, made.starts, 1)).toEqual([])
    expect(made.proven).toBe(made.finish <= made.bound)
  })

  // One worker, each task followed by a wait of its own: longest wait first is best, and its finish is the optimum.
  // Source: J. R. Jackson, "Scheduling a production line to minimize maximum tardiness" (1955), from memory.
  it('finishes as Jackson’s rule says, for one at work and waits that follow each task', () => {
    const random = seeded(19)
    for (let round = 0; round < 40; round += 1) {
      const pairs = Array.from({ length: 7 }, () => ({
        work: 1 + Math.floor(random() * 20),
        rest: Math.floor(random() * 60),
      }))
      const plain = { needsLaptop: false, zone: null }
      const tasks = pairs.flatMap(({ work, rest }, n): Task[] => [
        { ...plain, seconds: work, waits: [] },
        { ...plain, seconds: 0, waits: [{ after: 2 * n, seconds: rest }] },
      ])
      let clock = 0
      let finish = 0
      for (const { work, rest } of [...pairs].sort((a, b) => b.rest - a.rest)) {
        clock += work
        finish = Math.max(finish, clock + rest)
      }
      expect({ round, finish: scheduleOf(tasks, 1).finish }).toEqual({ round, finish })
    }
  })

  it('keeps what has begun where it is and puts the rest after now', () => {
    const tasks: readonly Task[] = [
      { seconds: 60, needsLaptop: false, zone: null, waits: [], began: 10 },
      { seconds: 30, needsLaptop: false, zone: null, waits: [{ after: 0, seconds: 150 }] },
      { seconds: 40, needsLaptop: false, zone: null, waits: [] },
    ]
    const made = scheduleOf(tasks, 1, 100)
    expect(made.starts).toEqual([10, 220, 100])
    expect(made.finish).toBe(250)
  })

  it('overlaps the start-up times of many devices and never breaks a rule', () => {
    const job = largeBringUp(40, 12)
    const order = bringUp(job)
    if (order.kind !== 'order') throw new Error('no order')
    const waits = precedenceOf(job, order.actions)
    const tasks = order.actions.map((action, index): Task => {
      const seconds = {
        laptop: 45,
        cable: 30,
        'lead-out': 15,
        'lead-in': 15,
        'group-on': 20,
        'group-off': 20,
        set: 60,
        verify: 0,
      }[action.kind]
      return {
        seconds,
        needsLaptop: ['laptop', 'verify', 'cable'].includes(action.kind),
        zone: null,
        waits: waits[index] ?? [],
      }
    })
    const one = scheduleOf(tasks, 1)
    const two = scheduleOf(tasks, 2)
    expect(wrongWith(tasks, one.starts, 1)).toEqual([])
    expect(wrongWith(tasks, two.starts, 2)).toEqual([])
    expect(two.finish).toBeLessThan(one.finish)
    expect(one.finish).toBeLessThan(1.05 * one.bound)
  })
})
