import { formatIpv4, ipv4, prefixLength } from '../address'
import { sampleDevice, sampleJob } from '../job/fixtures'
import type { Job } from '../job'
import {
  blankWalk,
  bringUpJobOf,
  consequencesOf,
  isSettled,
  openRuns,
  planWalk,
  presentOf,
  runFitsNow,
  shippedRuns,
  walkOf,
  type Stop,
  type WalkRecord,
  type WalkStep,
} from '.'

const laptop = [{ address: ipv4('10.20.40.5'), prefix: prefixLength(24) }]
const factory = '192.168.61.3'

/** A unit in service at its planned address, and what shares its breaker or its factory address. */
const unit = sampleDevice('RCU-301', '10.20.40.70', {
  kind: 'remote-control-unit',
  asFound: '10.20.40.70',
  isolation: 'Q9',
})
const io = sampleDevice('RIO-302', '10.20.40.71', { kind: 'remote-io', asFound: '10.20.40.71', isolation: 'Q9' })
const job = sampleJob({ devices: [unit, io] })

const begun = (runId: string, record: WalkRecord = blankWalk, deviceId: string = unit.id): WalkRecord => ({
  ...record,
  settings: { ...record.settings, onDemand: [...record.settings.onDemand, { id: `R-${runId}`, deviceId, runId }] },
})
const walk = (of: Job, record: WalkRecord) => walkOf(of, record, record.order, bringUpJobOf(of, record, laptop))
const notes: Readonly<Record<string, string>> = { carries: 'No', copies: 'unit.zip, safe, 4', identity: 'as labelled' }

/** Does the next step of the run, as it asks. */
function next(of: Job, record: WalkRecord, at: number): { readonly record: WalkRecord; readonly step: WalkStep } {
  const stop = walk(of, record).find((each) => each.onDemand !== null && each.state !== 'settled') as Stop
  const step = stop.steps.find((each) => !isSettled(each)) as WalkStep
  const note = notes[step.step.id] ?? 'seen'
  const { facts } = consequencesOf(of, stop, step, note)
  const by = { who: 'R. Osei', at }
  return {
    step,
    record: {
      ...record,
      steps: [
        ...record.steps,
        { id: step.key, stepKey: step.key, state: 'done', note, ...by, wait: null, rests: null, version: 1 },
      ],
      facts: [...record.facts, ...facts.map((fact, n) => ({ ...fact, id: `${at}-${n}`, ...by }))],
    },
  }
}

const addressOf = (of: Job, record: WalkRecord) => {
  const present = presentOf(of, record, unit)
  return present ? formatIpv4(present.address) : undefined
}

describe('a run begun beside the order', () => {
  test('comes first, whether the walk is begun or not, and belongs to its device', () => {
    const [first] = walk(job, begun('restart'))
    expect(first).toMatchObject({ title: 'Restart: RCU-301', onDemand: 'R-restart', held: null, state: 'ahead' })
    expect(first?.steps[0]?.step).toMatchObject({ kind: 'caution', protects: 'people' })
    const given = bringUpJobOf(job, blankWalk, laptop)
    const plan = planWalk(given, [], [], 1)
    if (!('answer' in plan)) throw new Error('no order')
    const stops = walk(job, { ...begun('restart'), order: plan.answer.actions })
    expect(stops[0]?.onDemand).toBe('R-restart')
    expect(stops.length).toBe(plan.answer.actions.length + 1)
  })

  test('a reset goes from the planned address to that of the kind and back, and the order waits for it', () => {
    let record = begun('factory-reset')
    const seen: string[] = []
    const places: string[] = []
    for (let at = 1; openRuns(job, record).length > 0; at += 1) {
      if (at > 60) throw new Error('not at its end')
      const made = next(job, record, at)
      record = made.record
      seen.push(made.step.step.id)
      places.push(`${made.step.step.id}: ${addressOf(job, record)}`)
      const walked = bringUpJobOf(job, record, laptop).devices.flatMap(({ name, frozen }) => (frozen ? [] : [name]))
      if (openRuns(job, record).length > 0) expect(walked).toEqual(['RIO-302'])
    }
    const at = (id: string) => seen.indexOf(id)
    for (const [earlier, later] of [
      ['stops', 'off'],
      ['lost', 'off'],
      ['copies', 'off'],
      ['off', 'button'],
      ['button', 'on'],
      ['on', 'steady'],
      ['steady', 'in-turn'],
      ['in-turn', 'count'],
      ['count', 'confirm'],
      ['confirm', 'flash'],
      ['flash', 'mode-switch'],
      ['mode-switch', 'start'],
      ['laptop-factory-seen', 'start'],
      ['answers', 'identity'],
      ['firmware', 'restore'],
      ['restore', 'restored'],
      ['clock', 'address'],
      ['laptop-back-seen', 'back'],
      ['back', 'find-again'],
    ] as const)
      expect({ earlier, later, holds: at(earlier) >= 0 && at(earlier) < at(later) }).toMatchObject({ holds: true })
    expect(places).toContain('confirm: 10.20.40.70')
    expect(places).toContain(`flash: ${factory}`)
    expect(places).toContain(`address: ${factory}`)
    expect(places).toContain('find-again: 10.20.40.70')
    // Done: it is in the order again, verified, with nothing left to do for it.
    const after = bringUpJobOf(job, record, laptop).devices.find(({ name }) => name === 'RCU-301')
    expect(after).toMatchObject({ verified: true })
    expect(after && formatIpv4((after.present ?? after.target).address)).toBe('10.20.40.70')
  })

  test('done to its end, a plan that asks for one more comparison does not take it in hand again', () => {
    let record = begun('firmware-update')
    for (let at = 1; openRuns(job, record).length > 0; at += 1) {
      if (at > 40) throw new Error('not at its end')
      record = next(job, record, at).record
    }
    const asking = {
      ...job,
      devices: job.devices.map((device) => ({ ...device, firmwareNeeded: '9', firmwareRelation: 'at-least' as const })),
    }
    expect(openRuns(asking, record)).toEqual([])
    // It stands there to be looked at all the same.
    const stop = walk(asking, record).find(({ onDemand }) => onDemand !== null)
    expect(stop?.steps.filter((step) => !isSettled(step)).map(({ step }) => step.check)).toEqual(['firmware'])
    // Before its end it is in hand, whatever is open.
    const last = record.steps.at(-1)?.stepKey
    const open = { ...record, steps: record.steps.filter(({ stepKey }) => stepKey !== last) }
    expect(openRuns(job, open)).toHaveLength(1)
  })

  test('with the order not begun, only what was begun is walked', () => {
    const kinds = walk(job, begun('restart')).map(({ onDemand }) => onDemand !== null)
    expect(kinds).toEqual([true])
  })

  test('overridden, nobody saw it reset: it stays where it was known to be', () => {
    const [stop] = walk(job, begun('factory-reset'))
    const flash = stop?.steps.find(({ step }) => step.id === 'flash')
    if (!stop || !flash) throw new Error('no step')
    expect(consequencesOf(job, stop, flash, 'lamps out of sight', 'overridden').facts).toEqual([])
    expect(consequencesOf(job, stop, flash, '').facts).toMatchObject([{ standing: 'in-force', text: factory }])
  })

  test('what hangs on its breaker goes off and on with it', () => {
    let record = begun('factory-reset')
    const power = (of: WalkRecord) => {
      const { groups } = bringUpJobOf(job, of, laptop)
      return groups.find(({ id }) => id === 'Q9')?.live
    }
    expect(power(record)).toBe(true)
    const track: Record<string, boolean | undefined> = {}
    for (let at = 1; at <= 9; at += 1) {
      const made = next(job, record, at)
      record = made.record
      track[made.step.step.id] = power(record)
    }
    expect(track).toMatchObject({ copies: true, off: false, button: false, on: true })
  })

  test('the laptop goes where the device is, at an address that nobody has', () => {
    let record = begun('factory-reset')
    const there: Record<string, string> = {}
    for (let at = 1; openRuns(job, record).length > 0; at += 1) {
      const made = next(job, record, at)
      record = made.record
      if (made.step.laptop) there[made.step.step.id] = formatIpv4(made.step.laptop.address)
    }
    expect(there['laptop-factory-set']).toMatch(/^192\.168\.61\./)
    expect(there['laptop-back-seen']).toMatch(/^10\.20\.40\./)
    expect(Object.values(there).filter((each) => [factory, '10.20.40.70', '10.20.40.71'].includes(each))).toEqual([])
  })

  test('given up half way, the device is back in the order, at the address it has now', () => {
    let record = begun('factory-reset')
    for (let at = 1, id = ''; id !== 'flash'; at += 1) {
      const made = next(job, record, at)
      record = made.record
      id = made.step.step.id
    }
    const given = { ...record, settings: { ...record.settings, onDemand: [] } }
    const plan = planWalk(bringUpJobOf(job, given, laptop), [], [], 1)
    if (!('answer' in plan)) throw new Error('no order')
    const own = plan.answer.actions.flatMap((action) =>
      'deviceId' in action && action.deviceId === unit.id ? [action.kind] : [],
    )
    expect(own).toEqual(['set', 'verify'])
  })

  test('it waits while another that is live has the address it would get', () => {
    const other = sampleDevice('RCU-303', '10.20.40.73', {
      kind: 'remote-control-unit',
      asFound: factory,
      isolation: 'Q10',
    })
    const both = sampleJob({ devices: [unit, io, other] })
    const live = { ...blankWalk.settings, groups: { Q10: { live: true } } }
    const held = (record: WalkRecord, of = both) => walk(of, record)[0]?.held
    expect(held(begun('factory-reset', { ...blankWalk, settings: live }))).toMatchObject({
      why: `RCU-301 waits: reset, it is at ${factory}, and RCU-303 is live there.`,
      leadsOf: [other.id],
    })
    // Without power it is in nobody's way, and a restart brings nobody anywhere.
    expect(held(begun('factory-reset'))).toBeNull()
    expect(held(begun('restart', { ...blankWalk, settings: live }))).toBeNull()
  })

  test('its breaker is not put on while that would bring two onto one address', () => {
    // Behind the same breaker, without power so far: it would come up where a live one stands.
    const supervisor = sampleDevice('SUP', '10.20.40.90', { kind: 'supervisor', asFound: '', isolation: 'Q4' })
    const same = sampleDevice('RIO-1', '10.20.40.91', { kind: 'remote-io', asFound: '192.168.66.30', isolation: 'Q4' })
    const live = sampleDevice('RIO-2', '10.20.40.92', { kind: 'remote-io', asFound: '192.168.66.30', isolation: 'Q5' })
    const three = sampleJob({ devices: [supervisor, same, live] })
    const held = (groups: Readonly<Record<string, { live: boolean }>>) =>
      walk(
        three,
        begun('supervisory-swap', { ...blankWalk, settings: { ...blankWalk.settings, groups } }, supervisor.id),
      )[0]?.held
    expect(held({ Q4: { live: false }, Q5: { live: true } })?.why).toMatch(
      /^Q4 stays off: RIO-1 and RIO-2 would both be live at 192\.168\.66\.30/,
    )
    expect(held({ Q4: { live: false }, Q5: { live: false } })).toBeNull()
  })

  test('a kind without a factory address: where it is now is read and written down, and nothing is taken as known', () => {
    const supervisor = sampleDevice('SUP', '10.20.40.90', {
      kind: 'supervisor',
      asFound: '10.20.40.90',
      isolation: 'Q4',
    })
    const one = sampleJob({ devices: [supervisor] })
    let record = begun('factory-reset', blankWalk, supervisor.id)
    const seen: string[] = []
    for (let at = 1; !seen.includes('flash'); at += 1) {
      const made = next(one, record, at)
      record = made.record
      seen.push(made.step.step.id)
    }
    expect(presentOf(one, record, supervisor)).toBeUndefined()
    const ids = walk(one, record)[0]?.steps.map(({ step }) => step.id)
    expect(ids).toEqual(expect.arrayContaining(['start-lease', 'found-at', 'laptop-lease-set']))
    expect(ids).not.toContain('start')
  })

  test('decisions of a run that was begun steer that one only', () => {
    const first = begun('factory-reset')
    const [stop] = walk(job, first)
    const carries = stop?.steps.find(({ step }) => step.id === 'carries')?.key ?? ''
    const record: WalkRecord = {
      ...begun('restore', first),
      steps: [
        { id: 's', stepKey: carries, state: 'done', note: 'Yes', who: 'x', at: 1, wait: null, rests: null, version: 1 },
      ],
    }
    const [restore, reset] = walk(job, record)
    expect(restore?.title).toBe('Restore from a copy: RCU-301')
    expect(reset?.steps.map(({ step }) => step.id)).toEqual(
      expect.arrayContaining(['laptop-carried-set', 'restored-planned']),
    )
    expect(reset?.steps.some(({ step }) => step.id === 'address')).toBe(false)
  })

  test('the swap is given its breaker, which in the order is an action of its own', () => {
    const supervisor = sampleDevice('SUP', '10.20.40.90', { kind: 'supervisor', isolation: 'Q4' })
    const one = sampleJob({ devices: [supervisor] })
    const ids =
      walk(one, begun('supervisory-swap', blankWalk, supervisor.id))[0]?.steps.map(({ step }) => step.id) ?? []
    expect(ids.indexOf('power-on')).toBeGreaterThan(ids.indexOf('old-off'))
    expect(ids.indexOf('power-on')).toBeLessThan(ids.indexOf('starts'))
  })

  test.each([
    ['restart', 'drive', true],
    ['firmware-update', 'meter', true],
    ['restore', 'gateway', true],
    ['factory-reset', 'gateway', true],
    ['factory-reset', 'drive', false],
    ['supervisory-swap', 'supervisor', true],
    ['supervisory-swap', 'drive', false],
    ['web-page', 'drive', false],
  ])('%s for a %s: %s', (runId, kind, fits) => {
    const run = shippedRuns.find(({ id }) => id === runId)
    expect(run && runFitsNow(run, kind)).toBe(fits)
  })

  test('a run that does not fit, or whose device is gone, is no stop', () => {
    expect(walk(job, begun('supervisory-swap'))[0]?.onDemand).toBeUndefined()
    expect(walk(job, begun('restart', blankWalk, 'nobody'))[0]?.onDemand).toBeUndefined()
  })
})
