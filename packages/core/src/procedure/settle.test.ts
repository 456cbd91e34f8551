import { ipv4, prefixLength } from '../address'
import { sampleDevice, sampleJob } from '../job/fixtures'
import type { BringUpAction } from '../sequence'
import {
  consequencesOf,
  heldBackBy,
  isByReason,
  LEAD_SETTING,
  leadOut,
  refusedNote,
  type RunStep,
  type StepRecord,
  type Stop,
  type WalkStep,
} from '.'
import { recordOf } from './fixtures'

const meter = sampleDevice('EM-501', '10.20.40.50', { kind: 'meter' })
const other = sampleDevice('EM-502', '10.20.40.51', { kind: 'meter' })
const unplanned = sampleDevice('EM-503', null, { kind: 'meter' })
const bare = sampleDevice('EM-504', '10.20.40.52', { kind: 'meter', ports: [] })
const job = sampleJob({ devices: [meter, other, unplanned, bare] })
const to = { address: ipv4('10.20.40.50'), prefix: prefixLength(24) }

const stepOf = (id: string, step: Partial<RunStep> = {}, more: Partial<WalkStep> = {}): WalkStep => ({
  key: id,
  stopKey: 's',
  deviceId: meter.id,
  deviceIds: [meter.id],
  step: { id, phase: 'set', kind: 'do', say: 'Do it.', ...step },
  seconds: 0,
  blocks: false,
  record: undefined,
  ...more,
})
const done = (step: WalkStep, state: StepRecord['state'] = 'done'): WalkStep => ({
  ...step,
  record: recordOf(step.key, state),
})
const stopOf = (action: BringUpAction | null, steps: readonly WalkStep[], deviceIds = [meter.id]): Stop => ({
  key: 's',
  title: 'A stop',
  reason: '',
  action,
  deviceIds,
  seconds: 0,
  steps,
  laptop: null,
  onDemand: null,
  state: 'ahead',
  held: null,
})
const after = (action: BringUpAction | null, step: WalkStep, note = '', others: readonly WalkStep[] = []) =>
  consequencesOf(job, stopOf(action, [...others, step]), step, note)
const line = (fact: { deviceId: string; setting: string; standing: string; text: string; how: string }) =>
  [fact.deviceId, fact.setting, fact.standing, fact.text, fact.how].join(' ')
const none = { facts: [], changes: [], leaves: null, putsBack: [] }

describe('what holds a step back', () => {
  const guard = stepOf('guard', {}, { blocks: true })
  const plain = stepOf('plain')
  const last = stepOf('last', {}, { blocks: true })
  test('the first that blocks and is not settled, before it and not itself', () => {
    const open = stopOf(null, [plain, guard, last])
    expect(heldBackBy(open, 'last')).toBe(guard)
    expect(heldBackBy(open, 'guard')).toBeUndefined()
    expect(heldBackBy(open, 'plain')).toBeUndefined()
    expect(heldBackBy(stopOf(null, [plain, done(guard), last]), 'last')).toBeUndefined()
    // What does not block holds nothing back; what is nowhere is held back by the first that is open.
    expect(heldBackBy(stopOf(null, [plain, last]), 'last')).toBeUndefined()
    expect(heldBackBy(open, 'nowhere')).toBe(guard)
    expect(heldBackBy(stopOf(null, [plain]), 'nowhere')).toBeUndefined()
  })

  test('a stop is settled by a reason when one of its steps is', () => {
    expect(isByReason(stopOf(null, [done(plain), done(guard, 'parked')]))).toBe(true)
    expect(isByReason(stopOf(null, [done(plain), done(guard, 'overridden')]))).toBe(true)
    expect(isByReason(stopOf(null, [done(plain), guard]))).toBe(false)
    expect(isByReason(stopOf(null, []))).toBe(false)
  })
})

describe('what a step that is done brings with it', () => {
  test('a lead that was pulled or plugged is kept, and the ledger with it; a reason is not a look', () => {
    const step = stepOf('lead', { leaves: { what: leadOut('EM-501'), putBack: 'Plug it in.' } })
    const out = after({ kind: 'lead-out', deviceId: meter.id }, step)
    expect(out.facts.map(line)).toEqual([`${meter.id} ${LEAD_SETTING} in-force pulled seen`])
    expect(out.leaves?.what).toBe('Network lead of EM-501 pulled')
    const plugged = after({ kind: 'lead-in', deviceId: meter.id }, stepOf('lead', { putsBack: leadOut('EM-501') }))
    expect(plugged.facts.map(line)).toEqual([`${meter.id} ${LEAD_SETTING} in-force plugged seen`])
    expect(plugged.putsBack).toEqual(['Network lead of EM-501 pulled'])
    const stop = stopOf({ kind: 'lead-out', deviceId: meter.id }, [step])
    expect(consequencesOf(job, stop, step, 'cannot be reached', 'overridden').facts).toEqual([])
  })

  test('a row that answered is kept number by number', () => {
    const step = stepOf('row', { kind: 'check', check: 'row-answers' })
    const stop = stopOf(null, [step], [meter.id, other.id])
    expect(consequencesOf(job, stop, step, '').facts.map(line)).toEqual(
      [meter, other].map(({ id, unitId }) => `${id} unit-id in-force ${unitId} read-live`),
    )
    expect(consequencesOf(job, stop, step, 'they all light', 'overridden').facts).toEqual([])
  })

  const both = [meter.id, other.id]
  const group = (kind: 'group-on' | 'group-off', id: string) =>
    consequencesOf(job, stopOf({ kind, groupId: 'Q1' }, [stepOf(id)], both), stepOf(id), '').facts.map(line)

  test('power, of all behind the breaker, by its own step only', () => {
    expect(group('group-on', 'on')).toEqual(both.map((id) => `${id} power in-force on seen`))
    expect(group('group-off', 'off')).toEqual(both.map((id) => `${id} power in-force off seen`))
    expect(group('group-on', 'look')).toEqual([])
    expect(group('group-off', 'on')).toEqual([])
    expect(group('group-on', 'off')).toEqual([])
    expect(after(null, stepOf('on'))).toEqual(none)
    expect(after({ kind: 'verify', deviceId: meter.id }, stepOf('off'))).toEqual(none)
  })

  test('an address is entered by the last step that writes, and in force when nothing is open', () => {
    const set = { kind: 'set', deviceId: meter.id, to, parking: false, pending: false } as const
    const first = stepOf('first', { acts: ['writes'] })
    const second = stepOf('second', { acts: ['writes'] })
    const later = stepOf('later')
    const facts = (action: BringUpAction, steps: readonly WalkStep[], step: WalkStep) =>
      consequencesOf(job, stopOf(action, steps), step, '').facts.map(line)
    const entered = `${meter.id} address entered 10.20.40.50 typed`
    const inForce = `${meter.id} address in-force 10.20.40.50 seen`
    expect(facts(set, [first, second, later], first)).toEqual([])
    expect(facts(set, [first, second, later], second)).toEqual([entered])
    expect(facts(set, [done(first), second], second)).toEqual([entered, inForce])
    expect(facts(set, [done(first), done(second), later], later)).toEqual([inForce])
    expect(facts(set, [done(first), second, later], later)).toEqual([])
    // Where it waits for a restart it is entered and not more.
    expect(facts({ ...set, pending: true }, [done(first), second], second)).toEqual([entered])
    // A step that writes elsewhere than in the setting does not enter the address; nor one that does something else.
    const elsewhere = stepOf('elsewhere', { acts: ['writes'], phase: 'after' })
    const turning = stepOf('turning', { acts: ['powers'] })
    expect(facts(set, [second, elsewhere, turning], second)).toEqual([entered])
    expect(facts(set, [second, elsewhere, turning], elsewhere)).toEqual([])
    expect(facts(set, [second, elsewhere, turning], turning)).toEqual([])
    expect(facts({ kind: 'verify', deviceId: meter.id }, [second], second)).toEqual([])
  })

  test('reached at its planned address: in force and verified, read live, where there is one', () => {
    const reached = stepOf('again', { check: 'reached-planned' })
    expect(after(null, reached).facts.map(line)).toEqual([
      `${meter.id} address in-force 10.20.40.50 read-live`,
      `${meter.id} address verified 10.20.40.50 read-live`,
    ])
    expect(after(null, stepOf('again', { check: 'reached-present' }))).toEqual(none)
    expect(after(null, { ...reached, deviceId: unplanned.id })).toEqual(none)
    expect(after(null, { ...reached, deviceId: bare.id })).toEqual(none)
    expect(after(null, { ...reached, deviceId: null })).toEqual(none)
  })

  test('the cable and the laptop are put back by the step that does it', () => {
    expect(after({ kind: 'cable', into: 'switch' }, stepOf('plug')).putsBack).toEqual(['Laptop’s cable'])
    expect(after({ kind: 'cable', into: meter.id }, stepOf('plug')).putsBack).toEqual([])
    const move = { kind: 'laptop', to } as unknown as BringUpAction
    expect(after(move, stepOf('set')).putsBack).toEqual(['Laptop at '])
    expect(after(move, stepOf('look')).putsBack).toEqual([])
    expect(after({ kind: 'verify', deviceId: meter.id }, stepOf('set')).putsBack).toEqual([])
    const leaves = { what: 'Jumper on P2', putBack: 'Take it off' }
    expect(after(null, stepOf('leave', { leaves }))).toEqual({ ...none, leaves })
    expect(after(null, stepOf('back', { putsBack: 'Jumper on' }))).toEqual({ ...none, putsBack: ['Jumper on'] })
  })

  test('what is written down goes to its field of the line-up or becomes a fact', () => {
    const written = (record: NonNullable<RunStep['record']>, note: string, deviceId: string | null = meter.id) =>
      after(null, stepOf('write', { kind: 'record', record }, { deviceId }), note)
    const change = (fields: object) => [{ op: 'set', table: 'device', id: meter.id, version: meter.version, fields }]
    expect(written('serial-number', 'S4')).toEqual({ ...none, changes: change({ serialNumber: 'S4' }) })
    expect(written('order-code', 'OC')).toEqual({ ...none, changes: change({ orderCodeFound: 'OC' }) })
    expect(written('firmware', '2.3')).toEqual({ ...none, changes: change({ firmwareFound: '2.3' }) })
    const found = written('as-found', '192.168.1.20')
    expect(found.changes).toEqual(change({ asFound: '192.168.1.20' }))
    expect(found.facts.map(line)).toEqual([`${meter.id} address found 192.168.1.20 typed`])
    // A label never overwrites the plan.
    const label = written('mac', '02-5e-0b-10-7c-11')
    expect(label.changes).toEqual([])
    expect(label.facts.map(line)).toEqual([`${meter.id} mac found 02:5E:0B:10:7C:11 typed`])
    expect(written('mac', '02:5E')).toEqual(none)
    // Verified is only what is planned and was seen.
    expect(written('unit-id', String(meter.unitId)).facts.map(line)).toEqual([
      `${meter.id} unit-id verified ${meter.unitId} typed`,
    ])
    expect(written('unit-id', '77').facts.map(line)).toEqual([`${meter.id} unit-id found 77 typed`])
    expect(written('node', '99').facts.map(line)).toEqual([`${meter.id} node found 99 typed`])
    expect(written('serial-number', 'S4', null)).toEqual(none)
  })
})

test('a step that was overridden was not looked at: a reason is no reading', () => {
  const stop = (step: WalkStep) => consequencesOf(job, stopOf(null, [step]), step, 'Label is unreadable', 'overridden')
  expect(stop(stepOf('look', { kind: 'check', check: 'reached-planned' }))).toEqual(none)
  expect(stop(stepOf('write', { kind: 'record', record: 'serial-number' }))).toEqual(none)
})

describe('what cannot be taken', () => {
  const refused = (step: Partial<RunStep>, note: string) => refusedNote(stepOf('write', step), note)
  test.each<[Partial<RunStep>, string, RegExp | undefined]>([
    [{ kind: 'record', record: 'serial-number' }, '  ', /^Nothing is written down\./],
    [{ kind: 'do' }, '', undefined],
    [{ kind: 'record', record: 'mac' }, '02:5E:0B:10:7C', /./],
    [{ kind: 'record', record: 'mac' }, '02:5E:0B:10:7C:11', undefined],
    [{ kind: 'record', record: 'as-found' }, '10.20.40', /./],
    [{ kind: 'record', record: 'as-found' }, '10.20.40.4', undefined],
    [{ kind: 'record', record: 'serial-number' }, '10.20.40', undefined],
    [{ kind: 'record', record: 'node' }, '1234', /not a number/],
    [{ kind: 'record', record: 'node' }, 'a1', /not a number/],
    [{ kind: 'record', record: 'unit-id' }, '1a', /not a number/],
    [{ kind: 'record', record: 'unit-id' }, ' 247 ', undefined],
    [{ kind: 'record', record: 'node' }, '9', undefined],
    [{ kind: 'record', record: 'firmware' }, 'two', undefined],
    [
      {
        kind: 'decide',
        choices: [
          { say: 'Yes', then: 'a' },
          { say: 'No', then: 'b' },
        ],
      },
      'No',
      undefined,
    ],
    [
      {
        kind: 'decide',
        choices: [
          { say: 'Yes', then: 'a' },
          { say: 'No', then: 'b' },
        ],
      },
      'Maybe',
      /Nothing is chosen/,
    ],
    [{ kind: 'decide' }, 'Yes', /Nothing is chosen/],
    [{ kind: 'do', choices: [{ say: 'Yes', then: 'a' }] }, 'Maybe', undefined],
  ])('%j "%s"', (step, note, says) => {
    const found = refused(step, note)
    if (says) expect(found?.what).toMatch(says)
    else expect(found).toBeUndefined()
  })

  test('a decision names what can be chosen', () => {
    const choices = [
      { say: 'Yes', then: 'a' },
      { say: 'No', then: 'b' },
    ]
    expect(refused({ kind: 'decide', choices }, '')?.expected).toBe('Yes or No')
  })
})
