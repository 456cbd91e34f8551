import { instant } from '../units'
import type { Decision, Evidence } from './evidence'
import { ladderOf, type LadderFacts } from './ladder'
import { rungs, type Rung } from './rungs'

const basis = {
  'address.device': '10.20.40.50',
  'port.device': '502',
  'unit-id.device': '1',
  'word-order.controller': 'ABCD',
  point: 'EM501_U1 V',
}
const evidence = (rung: Rung, at: number, more: Partial<Evidence> = {}): Evidence => ({
  id: `${rung}${at}`,
  rung,
  verdict: 'proven',
  who: 'R. Osei',
  at: instant(at),
  how: 'seen',
  value: 'seen',
  basis,
  ...more,
})
const decision = (rung: Rung, at: number, state: Decision['state']): Decision => ({
  rung,
  state,
  at: instant(at),
  reason: 'part not here',
  who: 'R. Osei',
})
const facts = (more: Partial<LadderFacts> = {}): LadderFacts => ({
  evidence: [],
  decisions: [],
  notApplying: [],
  basis,
  terms: { agreeing: 10, atOdds: 0, total: 10 },
  ...more,
})
const rung = (made: LadderFacts, id: Rung) => {
  const found = ladderOf(made).rungs.find((each) => each.rung === id)
  if (!found) throw new Error(id)
  return found
}

describe('the ladder', () => {
  test('begins empty, and says what would prove each rung', () => {
    const ladder = ladderOf(facts({ terms: { agreeing: 0, atOdds: 0, total: 10 } }))
    expect(ladder.rungs.map((each) => each.state)).toEqual(rungs.map(() => 'not-started'))
    expect(ladder.rungs.every((each) => each.missing !== '')).toBe(true)
    expect(ladder).toMatchObject({ proven: 0, needed: 9 })
  })

  test('evidence proves a rung; the latest counts', () => {
    expect(rung(facts({ evidence: [evidence('reached', 1)] }), 'reached').state).toBe('proven')
    const later = [evidence('reached', 1), evidence('reached', 2, { verdict: 'at-odds', value: 'Nothing answered' })]
    expect(rung(facts({ evidence: later }), 'reached')).toMatchObject({ state: 'at-odds', because: 'Nothing answered' })
  })

  test('evidence falls back visibly when the address changed afterwards', () => {
    const moved = facts({
      evidence: [evidence('reached', 1), evidence('powered', 1)],
      basis: { ...basis, 'address.device': '10.20.40.51' },
    })
    expect(rung(moved, 'reached')).toMatchObject({
      state: 'in-hand',
      because: 'Was proven; address (device end) changed from 10.20.40.50 to 10.20.40.51 since.',
    })
    // What was seen with the eye does not rest on the address.
    expect(rung(moved, 'powered').state).toBe('proven')
  })

  test('a term that was blank and is filled later makes the reading stale too', () => {
    const filled = facts({ evidence: [evidence('reading', 1)], basis: { ...basis, 'scale.device': '0.1' } })
    expect(rung(filled, 'reading')).toMatchObject({
      state: 'in-hand',
      changes: [{ fact: 'scale.device', then: '', now: '0.1' }],
    })
  })

  test('parked and does-not-apply by a decision with its reason; newer evidence takes over; taken back it is as before', () => {
    expect(rung(facts({ decisions: [decision('writing', 1, 'parked')] }), 'writing')).toMatchObject({
      state: 'parked',
      because: 'part not here (R. Osei)',
    })
    expect(
      rung(facts({ decisions: [decision('writing', 1, 'parked')], evidence: [evidence('writing', 2)] }), 'writing')
        .state,
    ).toBe('proven')
    expect(
      rung(facts({ decisions: [decision('writing', 1, 'parked'), decision('writing', 2, 'none')] }), 'writing').state,
    ).toBe('not-started')
  })

  test('a kind of device that needs no writing; a person may overrule', () => {
    const meter = facts({ notApplying: ['writing'] })
    expect(rung(meter, 'writing').state).toBe('not-apply')
    expect(ladderOf(meter).needed).toBe(8)
    expect(rung({ ...meter, decisions: [decision('writing', 1, 'none')] }, 'writing').state).toBe('not-started')
  })

  test('waiting says on what', () => {
    expect(rung(facts({ decisions: [decision('reached', 1, 'waiting')] }), 'reached')).toMatchObject({
      state: 'waiting',
      because: 'part not here',
    })
  })

  test('Agreed follows the terms: at odds whatever was recorded, in hand until confirmed', () => {
    const odds = facts({ evidence: [evidence('agreed', 1)], terms: { agreeing: 9, atOdds: 1, total: 10 } })
    expect(rung(odds, 'agreed')).toMatchObject({ state: 'at-odds', because: '1 term at odds.' })
    expect(rung(facts(), 'agreed')).toMatchObject({
      state: 'in-hand',
      missing: 'Confirm that they are in force at both ends.',
    })
    expect(rung(facts({ evidence: [evidence('agreed', 1)] }), 'agreed').state).toBe('proven')
  })
})
