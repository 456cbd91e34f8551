import { ipv4, prefixLength } from '../address'
import { sampleDevice, sampleJob } from '../job/fixtures'
import { blankWalk, bringUpJobOf, meanwhile, planWalk, tasksOf, walkOf, type WalkRecord } from '.'
import { recordOf } from './fixtures'

const laptop = [{ address: ipv4('10.20.40.5'), prefix: prefixLength(24) }]
const drive = (tag: string, address: string, asFound: string, isolation: string) =>
  sampleDevice(tag, address, { kind: 'drive', asFound, isolation, setting: 'keypad' })
/** Twins at one address, and one that is by itself. */
const job = sampleJob({
  devices: [
    drive('PD-101', '10.20.40.21', '192.168.1.20', 'Q1'),
    drive('PD-102', '10.20.40.22', '192.168.1.20', 'Q2'),
    drive('PD-103', '10.20.40.23', '192.168.1.30', 'Q3'),
  ],
})
const given = bringUpJobOf(job, blankWalk, laptop)
const plan = planWalk(given, [], [], 1)
const order = 'answer' in plan ? plan.answer.actions : []
const walk = (record: WalkRecord = { ...blankWalk, order }) => walkOf(job, record, order, given)
const named = (stops: ReturnType<typeof walk>, title: RegExp) => stops.find((stop) => title.test(stop.title))

describe('what is done while something waits', () => {
  test('another breaker, when nothing open has to come before it; never the twin that must stay without power', () => {
    const stops = walk()
    const waiting = named(stops, /^Put Q1 on/)
    if (!waiting) throw new Error('no stop')
    const other = meanwhile(given, stops, waiting)
    expect(other?.title).toMatch(/^Put Q3 on/)
  })

  test('what is offered could have come first: none of its kind waits for what is open', () => {
    const stops = walk()
    for (const waiting of stops.filter((stop) => stop.action?.kind === 'group-on')) {
      const other = meanwhile(given, stops, waiting)
      if (!other) continue
      const actions = stops.flatMap((stop) => stop.action ?? [])
      const place = stops.filter((stop) => stop.action).indexOf(other)
      const task = tasksOf(given, actions)[place]
      expect({ title: other.title, waits: task?.waits, laptop: task?.needsLaptop }).toEqual({
        title: other.title,
        waits: [],
        laptop: false,
      })
      expect(other.deviceIds.some((id) => waiting.deviceIds.includes(id))).toBe(false)
    }
  })

  test('one that waits itself is not offered, nor what is held, nor anything where all is settled', () => {
    const stops = walk()
    const third = named(stops, /^Put Q3 on/)
    const start = third?.steps.find(({ step }) => step.kind === 'wait')
    if (!third || !start) throw new Error('no stop')
    const both = walk({ ...blankWalk, order, steps: [recordOf(start.key, 'waiting')] })
    const waiting = named(both, /^Put Q1 on/)
    if (!waiting) throw new Error('no stop')
    expect(meanwhile(given, both, waiting)?.title ?? '').not.toMatch(/^Put Q3 on/)
    const held = stops.map((stop) => (stop === third ? { ...stop, held: { why: 'x', help: [], leadsOf: [] } } : stop))
    const first = named(held, /^Put Q1 on/)
    expect(first && meanwhile(given, held, first)?.title).not.toBe(third.title)
  })

  test('a run beside the order offers nothing: what it does to the others is not known', () => {
    const [stop] = walk()
    if (!stop) throw new Error('no stop')
    expect(meanwhile(given, walk(), { ...stop, action: null, onDemand: 'R1' })).toBeUndefined()
  })
})
