import { ipv4, prefixLength } from '../../address'
import { sampleDevice, sampleJob } from '../../job/fixtures'
import type { WayOfSetting } from '../../kind'
import {
  blankWalk,
  bringUpJobOf,
  planWalk,
  shippedRuns,
  usualSettings,
  walkOf,
  type StepRecord,
  type WalkRecord,
} from '..'
import { recordOf } from '../fixtures'

const laptop = [{ address: ipv4('10.20.40.5'), prefix: prefixLength(24) }]

/** The ids of the steps of a device, with what was settled. */
function idsOf(
  runId: string,
  kind: string,
  setting: WayOfSetting,
  settled: (key: string) => Partial<StepRecord> | undefined,
) {
  const device = sampleDevice('X-1', '10.20.40.61', {
    kind,
    setting,
    asFound: '192.168.1.20',
    isolation: 'Q4',
  })
  const job = sampleJob({ devices: [device] })
  const walk = (record: WalkRecord) => {
    const given = bringUpJobOf(job, record, laptop)
    const plan = planWalk(given, [], [], 1)
    if (!('answer' in plan)) throw new Error('no order')
    return walkOf(job, record, plan.answer.actions, given).flatMap((stop) => stop.steps)
  }
  const began: WalkRecord = { ...blankWalk, settings: { ...usualSettings, runs: { 'X-1': runId } } }
  const first = walk(began)
  const steps = first.flatMap((step) => {
    const said = settled(step.step.id)
    return said ? [{ ...recordOf(step.key, 'done'), ...said }] : []
  })
  return walk({ ...began, steps }).map(({ step }) => step.id)
}

describe('decisions that steer', () => {
  const ups = (said?: Partial<StepRecord>) =>
    idsOf('serial-menu', 'ups-card', 'serial-menu', (id) => (id === 'school' ? said : undefined))

  test('before it is taken nothing that hangs on it is shown', () => {
    expect(ups()).not.toEqual(expect.arrayContaining(['address']))
    expect(ups()).not.toEqual(expect.arrayContaining(['lease']))
  })

  test('a fixed address is typed; a reservation is read back instead', () => {
    expect(ups({ note: 'Fixed' })).toContain('address')
    expect(ups({ note: 'Fixed' })).not.toContain('lease-read')
    const lease = ups({ note: 'Reservation' })
    expect(lease).toEqual(expect.arrayContaining(['lease', 'lease-read']))
    expect(lease).not.toContain('address')
    expect(lease.indexOf('lease-read')).toBeGreaterThan(lease.indexOf('restart'))
  })

  test('settled without a choice it hides nothing; parked it is still open', () => {
    expect(ups({ state: 'overridden', note: 'nobody knows' })).toEqual(expect.arrayContaining(['address', 'lease']))
    expect(ups({ state: 'parked', note: 'asked the owner' })).not.toContain('address')
  })

  test('octal or decimal is asked before the switches are turned', () => {
    const switches = (note?: string) =>
      idsOf('switch-address', 'remote-io', 'rotary-switch', (id) =>
        id === 'octal' && note !== undefined ? { note } : undefined,
      )
    const ids = switches('Octal')
    expect(ids.indexOf('switches-octal')).toBeGreaterThan(ids.indexOf('octal'))
    expect(ids).not.toContain('switches')
    expect(switches('Decimal')).toContain('switches')
    expect(switches()).not.toEqual(expect.arrayContaining(['switches']))
  })

  test('every choice of a run that ships steers something, or is the one that goes on as it is', () => {
    for (const run of shippedRuns)
      for (const step of run.steps.filter(({ kind }) => kind === 'decide')) {
        const steered = run.steps.filter(({ onlyIf }) => onlyIf?.decided === step.id).map(({ onlyIf }) => onlyIf?.as)
        expect({ run: run.id, step: step.id, steers: steered.length > 0 }).toEqual({
          run: run.id,
          step: step.id,
          steers: true,
        })
        for (const as of steered) expect(step.choices?.map(({ say }) => say)).toContain(as)
      }
  })
})
