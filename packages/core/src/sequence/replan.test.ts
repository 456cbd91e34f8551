import { bringUp } from './bringUp'
import { jobOf } from './fixtures/jobs'
import { replayed } from './fixtures/replay'
import { replan } from './replan'
import { wordsOf } from './explain'

const twins = [
  { id: 'PD-101', from: '192.168.1.20', to: '10.20.40.21', effect: 'power-cycle' as const, access: 'local' as const },
  { id: 'PD-102', from: '192.168.1.20', to: '10.20.40.22', effect: 'power-cycle' as const, access: 'local' as const },
  { id: 'RIO-111', from: '192.168.66.30', to: '10.20.40.30' },
]

const actionsOf = (answer: ReturnType<typeof bringUp>) => {
  if (answer.kind !== 'order') throw new Error(JSON.stringify(answer))
  return answer.actions
}

describe('planning again while work is under way', () => {
  it('keeps the rest of the order after every finished action', () => {
    const job = jobOf(twins)
    const whole = actionsOf(bringUp(job))
    for (let done = 0; done <= whole.length; done += 1)
      expect(actionsOf(replan(job, whole.slice(0, done), whole.slice(done)))).toEqual(whole.slice(done))
  })

  it('adds a device without reshuffling what is begun, and what it plans can be followed', () => {
    const before = actionsOf(bringUp(jobOf(twins)))
    const job = jobOf([...twins, { id: 'EM-501', from: '192.168.66.70', to: '10.20.40.50' }])
    const begun = before.slice(0, 4)
    const rest = actionsOf(replan(job, begun, before.slice(4)))
    expect(replayed(job, [...begun, ...rest])).toEqual([])
    expect(
      rest.filter((action) => before.slice(4).some((each) => JSON.stringify(each) === JSON.stringify(action))).length,
    ).toBe(before.length - 4)
  })

  it('goes on from what is entered and from what was verified', () => {
    const job = jobOf(twins)
    const [pd1, pd2, rio] = job.devices
    if (!pd1 || !pd2 || !rio) throw new Error('three devices')
    const now = {
      ...job,
      groups: job.groups.map((group) => ({ ...group, live: group.id !== 'Q PD-102' })),
      devices: [{ ...pd1, pending: pd1.target }, pd2, { ...rio, present: rio.target, verified: true }],
    }
    const actions = actionsOf(bringUp(now))
    expect(actions.slice(0, 2)).toEqual([
      { kind: 'group-off', groupId: 'Q PD-101' },
      { kind: 'group-on', groupId: 'Q PD-101' },
    ])
    expect(actions.some((action) => 'deviceId' in action && action.deviceId === 'RIO-111')).toBe(false)
  })

  it('says for each action why it comes then', () => {
    const job = jobOf(twins)
    const actions = actionsOf(bringUp(job))
    const words = wordsOf(job, actions, (id) => id)
    expect(words.map(({ reason }) => reason)).toContain(
      'PD-102 stays unpowered: it has the same address as PD-101, 192.168.1.20.',
    )
    expect(words.every(({ reason }) => reason.endsWith('.'))).toBe(true)
  })
})
