import { ipv4, prefixLength } from '../../address'
import { judgeRow } from '../../checks'
import { sampleDevice, sampleJob } from '../../job/fixtures'
import type { Device } from '../../job'
import { blankWalk, bringUpJobOf, planWalk, usualSettings, waitsSetOffBy, walkOf, type Stop, type WalkRecord } from '..'
import { breakerOf } from '../breaker'

const laptop = [{ address: ipv4('10.20.40.5'), prefix: prefixLength(24) }]
const head = sampleDevice('MH-510', '10.20.40.55', { kind: 'gateway', asFound: '192.168.66.55', isolation: 'Q3' })
const moduleOf = (tag: string, unitId: number | null, more: Partial<Device> = {}) =>
  sampleDevice(tag, null, { kind: 'modular-meter', behindId: head.id, unitId, ports: [], ...more })
const three = [moduleOf('MM-513', 3), moduleOf('MM-511', 1), moduleOf('MM-512', 2)]
const jobOf = (devices: readonly Device[]) => sampleJob({ devices: [head, ...devices] })

function stopsOf(devices: readonly Device[], record: WalkRecord = blankWalk): readonly Stop[] {
  const job = jobOf(devices)
  const given = bringUpJobOf(job, record, laptop)
  const plan = planWalk(given, [], [], 1)
  if (!('answer' in plan)) throw new Error('no order')
  return walkOf(job, record, plan.answer.actions, given)
}
const onOf = (stops: readonly Stop[]) => stops.find((stop) => stop.action?.kind === 'group-on')
const rowOf = (stops: readonly Stop[]) => stops.find((stop) => stop.key.startsWith('row '))
const sayings = (stop: Stop | undefined) => stop?.steps.map(({ step }) => `${step.kind}: ${step.say}`) ?? []

describe('devices without an address of their own', () => {
  test('without a breaker of their own they get power by that of what they hang behind, however far', () => {
    const far = sampleDevice('X-1', null, { behindId: 'MM-511', ports: [] })
    const job = jobOf([...three, far])
    expect(breakerOf(job, far)).toBe('Q3')
    expect(breakerOf(job, { ...far, isolation: 'Q9' })).toBe('Q9')
    expect(breakerOf(job, { ...far, behindId: null })).toBe('X-1')
    // Two that hang behind each other end somewhere.
    const circle = [sampleDevice('A', null, { behindId: 'B' }), sampleDevice('B', null, { behindId: 'A' })]
    expect(['A', 'B']).toContain(breakerOf(sampleJob({ devices: circle }), circle[0] as Device))
  })

  test('their sheet and cautions come before the breaker of their head goes on, each said once', () => {
    const stops = stopsOf(three)
    const before = sayings(onOf(stops))
    const on = before.findIndex((say) => say.startsWith('do: Put Q3 on'))
    expect(before.slice(0, 2)).toEqual([
      expect.stringMatching(/^caution: Isolate Q3.* any terminal of MH-510, MM-513, MM-511 and MM-512 is touched/),
      expect.stringMatching(/^caution: When Q3 goes on, what hangs on MH-510, MM-513, MM-511 and MM-512/),
    ])
    const transformers = before.flatMap((say, place) => (/never open a secondary under load/.test(say) ? [place] : []))
    expect(transformers).toHaveLength(1)
    expect(transformers[0]).toBeLessThan(on)
    // What was done there is not asked again in their own stop.
    expect(sayings(rowOf(stops)).filter((say) => /Isolate|never open|Terminator/.test(say))).toEqual([])
  })

  test('behind a breaker that is on already their sheet is a stop of its own, before their work; nothing is put on', () => {
    const live = { ...blankWalk, settings: { ...usualSettings, groups: { Q3: { live: true } } } }
    const stops = stopsOf(three, live)
    expect(onOf(stops)).toBeUndefined()
    const before = stops.findIndex(({ title }) => title === 'Before work on Q3: MM-513, MM-511, MM-512')
    expect(before).toBeLessThan(stops.findIndex((stop) => stop === rowOf(stops)))
    const said = sayings(stops[before])
    expect(said[0]).toMatch(/^caution: Isolate Q3.*MM-513, MM-511 and MM-512/)
    expect(said.filter((say) => /never open a secondary under load/.test(say))).toHaveLength(1)
    expect(said.filter((say) => /Put Q3 on/.test(say))).toEqual([])
  })

  test('what was read for some is not read for more', () => {
    const keyOf = (devices: readonly Device[]) => onOf(stopsOf(devices))?.steps[0]?.key
    expect(keyOf(three)).toBe(keyOf([...three].reverse()))
    expect(keyOf(three)).not.toBe(keyOf([...three, moduleOf('MM-514', 4)]))
  })
})

test('a device with an address of its own is told of its own breaker, behind whomever it hangs', () => {
  const far = sampleDevice('INV-1', '10.20.40.60', { kind: 'inverter', behindId: head.id, asFound: '192.168.66.60' })
  const own = stopsOf([far]).find((stop) => stop.title.startsWith('Put INV-1 on'))
  expect(sayings(own).join(' ')).not.toContain('Q3')
  expect(own?.action).toMatchObject({ groupId: 'INV-1' })
})

test('what leaves something behind is ticked for each: one that is back says nothing of the other', () => {
  const two = ['SUP-1', 'SUP-2'].map((tag, k) =>
    sampleDevice(tag, `10.20.40.7${k}`, { kind: 'supervisor', asFound: `192.168.66.7${k}`, isolation: 'Q8' }),
  )
  const trunks = stopsOf(two).flatMap((stop) =>
    stop.steps.filter(({ step }) => step.leaves && stop.action?.kind === 'group-on'),
  )
  expect(trunks.map(({ step }) => step.leaves?.what)).toEqual([
    'Field trunk of SUP-1 unplugged',
    'Field trunk of SUP-2 unplugged',
  ])
})

describe('a row', () => {
  test('is one stop: searched for once, a turn for each by number, compared once', () => {
    const row = rowOf(stopsOf(three))
    expect(row?.deviceIds).toEqual(['MM-511', 'MM-512', 'MM-513'])
    const kinds = row?.steps.map(({ step }) => step.kind)
    expect(kinds).toEqual(['caution', 'do', 'expect', 'turn', 'turn', 'turn', 'wait', 'check'])
    expect(row?.steps.filter(({ step }) => step.kind === 'turn').map(({ step }) => step.say)).toEqual([
      'Press the button of MM-511 about 2 s: number 1.',
      'Press the button of MM-512 about 2 s: number 2.',
      'Press the button of MM-513 about 2 s: number 3.',
    ])
    // It read all of itself: nothing is left to be counted behind the head.
    expect(stopsOf(three).some((stop) => stop.title.startsWith('Count'))).toBe(false)
  })

  test('only the last turn sets off the wait, and power sets off the start of what it powers', () => {
    const stops = stopsOf(three)
    const row = rowOf(stops)
    const turns = row?.steps.filter(({ step }) => step.kind === 'turn') ?? []
    const done = { state: 'done' } as never
    const waitsAfter = (place: number, settled: number) => {
      const steps = row?.steps.map((step) =>
        turns.slice(0, settled).includes(step) ? { ...step, record: done } : step,
      )
      const turn = turns[place]
      return row && steps && turn ? waitsSetOffBy({ ...row, steps }, turn).map(({ step }) => step.id) : undefined
    }
    expect(waitsAfter(0, 1)).toEqual([])
    expect(waitsAfter(2, 3)).toEqual(['minute'])
    // Pressed out of order on the page: the last one that is ticked sets it off.
    expect(waitsAfter(1, 3)).toEqual(['minute'])
    // What protects somebody and is open comes first: the clock is begun when it is over.
    const guarded = row && {
      ...row,
      steps: row.steps.flatMap((each) => (each.step.kind === 'wait' ? [{ ...each, blocks: true }] : [each])),
    }
    const last = turns[2]
    expect(guarded && last && waitsSetOffBy(guarded, last)).toEqual([])
    const on = onOf(stops)
    const step = on?.steps.find(({ step: { id } }) => id === 'on')
    expect(on && step && waitsSetOffBy(on, step).map(({ step: { id } }) => id)).toEqual(['starts'])
  })

  test('one by itself stays a stop of its own', () => {
    const stops = stopsOf([moduleOf('MM-511', 1)])
    expect(rowOf(stops)).toBeUndefined()
    expect(stops.some((stop) => stop.key === 'device MM-511')).toBe(true)
  })
})

describe('what a row answers', () => {
  const unit = (tag: string, number: number | null, answers = true) => ({
    tag,
    unit: number,
    identity: answers ? '' : undefined,
    orderCode: '',
  })
  const silent = { unit: 3, answers: false }

  test('two that took one number, a module more than planned, and one without a number are each named', () => {
    expect(judgeRow({ units: [unit('MM-1', 1), unit('MM-2', 2, false)], next: silent })).toMatchObject({
      verdict: 'failed',
      say: expect.stringContaining('Silent: MM-2 (2).'),
    })
    expect(judgeRow({ units: [unit('MM-1', 1), unit('MM-2', 2)], next: { unit: 3, answers: true } })).toMatchObject({
      verdict: 'failed',
      say: expect.stringContaining('Number 3 answers too'),
    })
    expect(judgeRow({ units: [unit('MM-1', 1), unit('MM-2', 1)], next: undefined })).toMatchObject({
      verdict: 'failed',
      say: expect.stringContaining('both planned at number 1'),
    })
    expect(judgeRow({ units: [unit('MM-1', 1), unit('MM-2', null)], next: undefined }).verdict).toBe('not-conclusive')
    expect(judgeRow({ units: [unit('MM-1', 1), unit('MM-2', 2)], next: silent })).toMatchObject({
      verdict: 'passed',
      compared: 2,
      of: 2,
      say: expect.stringContaining('Nobody answers at 3.'),
    })
  })
})
