import { bringUp } from '../bringUp'
import { jobOf, largeBringUp } from '../fixtures/jobs'
import { powerJob, randomJob } from '../fixtures/randomJob'
import { replayed } from '../fixtures/replay'
import type { BringUpAction, BringUpJob } from '../model'
import { precedenceOf } from './precedence'
import { scheduleOf, type Task } from './schedule'

/** Seconds, laptop and zone of each action, as a walk gives them. */
function tasksOf(job: BringUpJob, actions: readonly BringUpAction[]): readonly Task[] {
  const waits = precedenceOf(job, actions)
  return actions.map((action, index) => {
    const device = 'deviceId' in action ? job.devices.find((each) => each.id === action.deviceId) : undefined
    const local = device?.access === 'local'
    const seconds = {
      laptop: 45,
      cable: 30,
      'lead-out': 15,
      'lead-in': 15,
      'group-on': 20,
      'group-off': 20,
      set: device?.handsOnSeconds ?? 0,
      verify: 0,
    }[action.kind]
    const needsLaptop = ['laptop', 'cable', 'verify'].includes(action.kind) || (action.kind === 'set' && !local)
    return { seconds, needsLaptop, zone: null, waits: waits[index] ?? [] }
  })
}

/**
 * What is wrong with a schedule when it is done on the whole plant: in the order in which actions begin and, as two
 * people are at work, in the order in which they end.
 */
function wrongInTime(job: BringUpJob, actions: readonly BringUpAction[], people: 1 | 2): readonly string[] {
  const tasks = tasksOf(job, actions)
  const { starts } = scheduleOf(tasks, people, 0, 4_000)
  const inOrderOf = (when: (index: number) => number) =>
    replayed(
      job,
      actions
        .map((_, index) => index)
        .sort((a, b) => when(a) - when(b) || a - b)
        .flatMap((index) => actions[index] ?? []),
    )
  const start = (index: number) => starts[index] ?? 0
  return [...inOrderOf(start), ...inOrderOf((index) => start(index) + (tasks[index]?.seconds ?? 0))]
}

describe('a schedule done on the plant in order of time', () => {
  it.each([
    ['scarce addresses', (seed: number) => randomJob(seed, 4, 4), 220, 60],
    ['scarce addresses, more devices', (seed: number) => randomJob(seed * 7, 6, 5), 60, 8],
    ['much that waits for power', (seed: number) => powerJob(seed, 4), 60, 50],
  ])('is legal for one and for two people: %s', (_, jobFor, count, least) => {
    let followed = 0
    for (let seed = 1; seed <= count; seed += 1) {
      const job = jobFor(seed)
      const answer = bringUp(job, { states: 1_000 })
      if (answer.kind !== 'order') continue
      followed += 1
      for (const people of [1, 2] as const)
        expect({ seed, people, wrong: wrongInTime(job, answer.actions, people) }).toEqual({ seed, people, wrong: [] })
    }
    expect(followed).toBeGreaterThan(least)
  })

  it('is legal for 40 devices of which 12 have one address', () => {
    const job = largeBringUp(40, 12)
    const answer = bringUp(job, { states: 2_000 })
    if (answer.kind !== 'order') throw new Error(answer.kind)
    for (const people of [1, 2] as const) expect(wrongInTime(job, answer.actions, people)).toEqual([])
  })

  it('looks at a device, and sets it over IP, only after the clash at its address was ended at the keypad', () => {
    const live = { live: true, mustStayLive: true, chained: true }
    const job = jobOf([
      { id: 'KEYS', from: '10.0.0.10', to: '10.0.0.11', access: 'local', handsOnSeconds: 90, power: live },
      { id: 'PAGE', from: '10.0.0.10', to: '10.0.0.12', power: live },
      { id: 'SEEN', from: '10.0.0.13', to: '10.0.0.13', power: live },
    ])
    const answer = bringUp(job)
    if (answer.kind !== 'order') throw new Error(answer.kind)
    const place = (kind: string, id: string) =>
      answer.actions.findIndex((action) => action.kind === kind && 'deviceId' in action && action.deviceId === id)
    const waits = precedenceOf(job, answer.actions)
    const [keys, page] = [place('set', 'KEYS'), place('set', 'PAGE')]
    expect(keys).toBeLessThan(page)
    expect(waits[page]?.map(({ after }) => after)).toContain(keys)
    // Nobody is in the way of this one: it is looked at while the other stands at its keypad.
    expect(waits[place('verify', 'SEEN')]?.map(({ after }) => after)).not.toContain(keys)
  })
})
