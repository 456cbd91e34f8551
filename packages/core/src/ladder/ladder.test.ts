import { textFact, type Evidence } from '../evidence'
import { instant } from '../units'
import { BASIS_KEEPS, type Decision } from './evidence'
import { ladderOf, type LadderFacts } from './ladder'
import { rungFacts, rungs, type Rung } from './rungs'

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
  mode: 'bench',
  subject: rungFacts(rung).about === 'point' ? { kind: 'point', id: 'p' } : { kind: 'handshake', id: 'h' },
  facts: [textFact('seen')],
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
  points: [{ id: 'p', name: 'Voltage', basis: more.basis ?? basis }],
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
    const later = [
      evidence('reached', 1),
      evidence('reached', 2, { verdict: 'at-odds', facts: [textFact('Nothing answered')] }),
    ]
    expect(rung(facts({ evidence: later }), 'reached')).toMatchObject({ state: 'at-odds', because: 'Nothing answered' })
    // By its moment, not by its place in the list.
    expect(rung(facts({ evidence: [...later].reverse() }), 'reached').state).toBe('at-odds')
    const again = [evidence('reached', 3), ...later]
    expect(rung(facts({ evidence: again }), 'reached').state).toBe('proven')
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

  test('a register counted another way makes the reading stale; older evidence did not keep how it was counted', () => {
    const now = { ...basis, [BASIS_KEEPS]: 'notation served', 'notation.device': 'counts from 1' }
    const kept = evidence('reading', 1, { basis: { ...now, 'notation.device': 'counts from 0' } })
    expect(rung(facts({ evidence: [kept], basis: now }), 'reading')).toMatchObject({
      state: 'in-hand',
      changes: [{ fact: 'notation.device', then: 'counts from 0', now: 'counts from 1' }],
    })
    expect(rung(facts({ evidence: [evidence('reading', 1)], basis: now }), 'reading').state).toBe('proven')
    const served = { ...now, served: 'float32 ABCD' }
    const other = evidence('reading', 1, { basis: { ...served, served: 'float32 CDAB' } })
    expect(rung(facts({ evidence: [other], basis: served }), 'reading').state).toBe('in-hand')
  })

  test('settings of a line that older evidence did not keep are not held against it; what was kept is', () => {
    const now = { ...basis, [BASIS_KEEPS]: 'notation line-settings', 'line-settings.device': '9600 8N1' }
    expect(rung(facts({ evidence: [evidence('reading', 1)], basis: now }), 'reading').state).toBe('proven')
    const before = evidence('reading', 1, { basis: { ...now, 'line-settings.device': '9600 8E1' } })
    expect(rung(facts({ evidence: [before], basis: now }), 'reading').changes).toEqual([
      { fact: 'line-settings.device', then: '9600 8E1', now: '9600 8N1' },
    ])
  })

  test.each<[Rung, readonly string[]]>([
    ['reached', ['address.device', 'port.device', 'unit-id.device']],
    ['survives', ['address.device', 'port.device', 'unit-id.device']],
    [
      'reading',
      [
        'address.controller',
        'address.device',
        'port.device',
        'port.controller',
        'unit-id.device',
        'unit-id.controller',
        'count.device',
        'word-order.controller',
        'scale.device',
        'point',
      ],
    ],
  ])('evidence of %s rests on every one of its facts', (name, rested) => {
    for (const fact of rested) {
      const changed = facts({ evidence: [evidence(name, 1)], basis: { ...basis, [fact]: 'another' } })
      expect([fact, rung(changed, name).state]).toEqual([fact, 'in-hand'])
    }
  })

  test('the count of proven rungs, and the words for one and for several', () => {
    const two = facts({ evidence: [evidence('safe', 1), evidence('powered', 1)] })
    expect(ladderOf(two)).toMatchObject({ proven: 2, needed: 9 })
    const odds = (atOdds: number) => rung(facts({ terms: { agreeing: 4, atOdds, total: 10 } }), 'agreed').because
    expect([odds(1), odds(3)]).toEqual(['1 term at odds.', '3 terms at odds.'])
    const open = (agreeing: number) => rung(facts({ terms: { agreeing, atOdds: 0, total: 10 } }), 'agreed')
    expect(open(9)).toMatchObject({ because: '9 of 10 terms agree.', missing: '1 term is not known at both ends.' })
    expect(open(7).missing).toBe('3 terms are not known at both ends.')
    expect(open(0)).toMatchObject({ state: 'not-started', because: '' })
  })

  test('evidence and decisions count for their own rung only', () => {
    const one = facts({ evidence: [evidence('writing', 1)], decisions: [decision('survives', 1, 'parked')] })
    const states = ladderOf(one).rungs.map((each) => [each.rung, each.state])
    expect(states.filter(([, state]) => state !== 'not-started')).toEqual([
      ['agreed', 'in-hand'],
      ['writing', 'proven'],
      ['survives', 'parked'],
    ])
    expect(rung(facts({ terms: { agreeing: 0, atOdds: 2, total: 10 } }), 'reading').state).toBe('not-started')
  })

  test('in hand and does-not-apply by a decision; evidence at odds that was changed since says so', () => {
    expect(rung(facts({ decisions: [decision('reached', 1, 'in-hand')] }), 'reached')).toMatchObject({
      state: 'in-hand',
      because: 'part not here',
      missing: expect.stringMatching(/answered/),
    })
    expect(rung(facts({ decisions: [decision('reached', 1, 'not-apply')] }), 'reached')).toMatchObject({
      state: 'not-apply',
      missing: '',
    })
    const odds = [evidence('reached', 1, { verdict: 'at-odds' })]
    const moved = { ...basis, 'address.device': '10.20.40.51' }
    expect(rung(facts({ evidence: odds, basis: moved }), 'reached').because).toMatch(/^Was at odds;/)
    // A decision that was taken back lets older evidence stand; an older decision yields to newer evidence.
    const back = facts({ evidence: [evidence('writing', 1)], decisions: [decision('writing', 2, 'none')] })
    expect(rung(back, 'writing').state).toBe('proven')
    const late = [decision('writing', 3, 'parked'), decision('writing', 2, 'not-apply')]
    expect(rung(facts({ decisions: late }), 'writing').state).toBe('parked')
    const waits = facts({ evidence: [evidence('writing', 5)], decisions: [decision('writing', 2, 'waiting')] })
    expect(rung(waits, 'writing').state).toBe('proven')
    // Agreed is parked like any other, terms at odds or not.
    const parked = facts({ decisions: [decision('agreed', 1, 'parked')], terms: { agreeing: 1, atOdds: 1, total: 9 } })
    expect(rung(parked, 'agreed').state).toBe('parked')
  })

  test('a rung is found by its id, and nothing else is one', () => {
    expect(rungFacts('reading')).toMatchObject({ id: 'reading', name: 'Reading' })
    expect(() => rungFacts('flying' as Rung)).toThrow(RangeError)
  })

  test('of two at the same time the later entry counts', () => {
    const both = [
      evidence('reached', 5),
      evidence('reached', 5, { verdict: 'at-odds', facts: [textFact('Nothing answered')] }),
    ]
    expect(rung(facts({ evidence: both }), 'reached').state).toBe('at-odds')
    expect(rung(facts({ evidence: [...both].reverse() }), 'reached').state).toBe('proven')
    // A decision does not stand against evidence of a later moment, but does against that of the same.
    expect(
      rung(facts({ evidence: [evidence('writing', 5)], decisions: [decision('writing', 5, 'parked')] }), 'writing')
        .state,
    ).toBe('parked')
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

describe('a rung that asks for every point', () => {
  const named = (...ids: readonly string[]) => ids.map((id) => ({ id, name: id.toUpperCase(), basis }))
  const seen = (id: string, at: number, more: Partial<Evidence> = {}) =>
    evidence('reading', at, { id: `${id}${at}`, subject: { kind: 'point', id }, ...more })
  const reading = (points: LadderFacts['points'], ...all: readonly Evidence[]) =>
    rung(facts({ points, evidence: all }), 'reading')

  test('is proven when each of them is, and says how many are', () => {
    const three = named('a', 'b', 'c')
    expect(reading(three)).toMatchObject({ state: 'not-started' })
    expect(reading(three, seen('a', 1))).toMatchObject({
      state: 'in-hand',
      because: '1 of 3 points proven.',
      missing: 'Still to be seen: B, C.',
    })
    expect(reading(three, seen('a', 1), seen('c', 2), seen('b', 3))).toMatchObject({
      state: 'proven',
      because: 'All 3 points proven: A, B, C.',
      missing: '',
    })
  })

  test('one at odds is enough, and a later reading of that point alone puts it right', () => {
    const two = named('a', 'b')
    const wrong = seen('a', 2, { verdict: 'at-odds', facts: [textFact('off by ten')] })
    expect(reading(two, seen('b', 1), wrong)).toMatchObject({
      state: 'at-odds',
      because: '1 of 2 points proven; at odds: A. off by ten',
    })
    expect(reading(two, wrong, seen('b', 3)).state).toBe('at-odds')
    expect(reading(two, wrong, seen('b', 3), seen('a', 4)).state).toBe('proven')
  })

  test('a point that changed since is to be seen again; the others stand', () => {
    const [a, b] = named('a', 'b')
    const changed = { id: 'b', name: 'B', basis: { ...basis, point: 'another tag' } }
    const made = reading(a && b ? [a, changed] : [], seen('a', 1), seen('b', 1))
    expect(made).toMatchObject({ state: 'in-hand', missing: 'Still to be seen: B.' })
    expect(made.because).toBe(
      '1 of 2 points proven. B: Was proven; point changed from EM501_U1 V to another tag since.',
    )
    expect(made.points.map((point) => point.state)).toEqual(['proven', 'changed'])
  })

  test('evidence of a point that is not asked for, or of the handshake as a whole, proves none', () => {
    const whole = evidence('reading', 1, { subject: { kind: 'handshake', id: 'h' } })
    expect(reading(named('a'), whole, seen('z', 2)).state).toBe('not-started')
    expect(reading([], seen('z', 2))).toMatchObject({ state: 'not-started', missing: 'No point is asked for yet.' })
  })
})
