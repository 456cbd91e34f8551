import { sampleDevice, sampleEvidence, sampleHandshake, sampleJob, samplePoint } from '../job/fixtures'
import { basisOf, handshakeTermsOf, type AskedOfOthers, type ForcedValue, type Job } from '../job'
import { rungs, type Decision } from '../ladder'
import { blankWalk, type StepRecord, type TemporaryThing, type WalkRecord } from '../procedure'
import { instant } from '../units'
import { asLeftRecord } from './asLeft'
import { asLeftTable } from './asLeftTable'
import { inNoHandshake, NO_HANDSHAKE } from './openPoints'
import { readinessOf } from './readiness'

const forced: ForcedValue = {
  id: 'f',
  where: 'PD-101 speed',
  value: '20 %',
  who: 'R. Osei',
  at: 1,
  releasedBy: null,
  releasedAt: null,
  version: 1,
}
const thing: TemporaryThing = {
  id: 't',
  what: 'Key of PLC-101 left in program',
  putBack: 'Turn it to run.',
  who: 'R. Osei',
  at: 2,
  backBy: null,
  backAt: null,
  version: 1,
}
const decided = (rung: Decision['rung'], state: Decision['state']) => ({
  id: rung,
  rung,
  state,
  reason: 'not here',
  who: 'R. Osei',
  at: instant(1),
})

/** A job of which everything is decided: only the rung named is left to evidence. */
const decidedBut = (...open: readonly Decision['rung'][]): Job =>
  sampleJob({
    devices: [sampleDevice('PLC', '10.20.40.10'), sampleDevice('EM', '10.20.40.50', { behindId: 'PLC' })],
    handshakes: [
      sampleHandshake('PLC', 'EM', {
        points: [samplePoint()],
        decisions: rungs.flatMap(({ id }) =>
          id === 'handed-over' || open.includes(id) ? [] : [decided(id, 'not-apply')],
        ),
      }),
    ],
  })

/** A job that nothing stands against. */
const sound = (): Job => decidedBut()
const walkWith = (more: Partial<WalkRecord>): WalkRecord => ({ ...blankWalk, ...more })
const opensOf = (job: Job, walk = blankWalk) => readinessOf(job, walk).open.map(({ say }) => say)
const recordOf = (job: Job, walk: Partial<WalkRecord> = {}) =>
  asLeftRecord({ job, walk: walkWith(walk), madeAt: 0, logHash: 'seal', logWhole: true })
const step = (state: StepRecord['state'], more: Partial<StepRecord> = {}): StepRecord => ({
  id: 's',
  stepKey: 'verify EM / EM starts',
  state,
  note: 'later',
  who: 'R. Osei',
  at: 1,
  wait: null,
  rests: null,
  version: 1,
  ...more,
})
const request: AskedOfOthers = {
  id: 'r',
  about: 'range',
  what: 'Addresses of the process network',
  toWhom: 'network owner',
  deviceIds: [],
  askedOn: '2026-11-01',
  dueOn: null,
  answer: '',
  answeredOn: null,
  version: 1,
}

describe('readiness', () => {
  test('nothing open: ready', () => {
    expect(readinessOf(sound(), blankWalk)).toMatchObject({ open: [], known: [], openCount: 0 })
    expect(recordOf(sound())).toMatchObject({ readyToHandOver: true, state: 'ready to hand over' })
  })

  test.each<[string, Partial<Job>, readonly TemporaryThing[], string]>([
    ['a forced value', { forced: [forced] }, [], '1 value is forced. Release first.'],
    ['two of them', { forced: [forced, { ...forced, id: 'g' }] }, [], '2 values are forced. Release first.'],
    ['a thing left', {}, [thing], 'Not back yet: Key of PLC-101 left in program.'],
  ])('%s keeps hand-over shut until it is seen back', (_what, change, temporary, block) => {
    const job = { ...sound(), ...change }
    expect(opensOf(job, walkWith({ temporary }))).toEqual([block])
    const released = job.forced.map((each) => ({ ...each, releasedBy: 'R. Osei', releasedAt: 9 }))
    const back = temporary.map((each) => ({ ...each, backBy: 'R. Osei', backAt: 9 }))
    expect(readinessOf({ ...job, forced: released }, walkWith({ temporary: back }))).toMatchObject({
      open: [],
      openCount: 0,
    })
  })

  test.each(rungs.filter(({ id }) => id !== 'handed-over').map(({ id, name }) => [id, name] as const))(
    'the rung %s keeps it shut until it is proven, does not apply or is parked',
    (id, name) => {
      const job = decidedBut(id)
      const withDecision = (state: Decision['state']): Job => ({
        ...job,
        handshakes: job.handshakes.map((each) => ({ ...each, decisions: [...each.decisions, decided(id, state)] })),
      })
      for (const open of [withDecision('waiting'), withDecision('in-hand'), withDecision('none')])
        expect(opensOf(open)).toEqual([`${name} not yet proven: PLC to EM.`])
      expect(recordOf(withDecision('none'))).toMatchObject({
        readyToHandOver: false,
        state: 'as it stands, not ready to hand over',
      })
      expect(opensOf(withDecision('not-apply'))).toEqual([])
      // Parked with a reason it may be signed, and the record still says that it is not whole.
      const parked = recordOf(withDecision('parked'))
      expect(parked).toMatchObject({ readyToHandOver: true, open: [] })
      expect(parked.state).toMatch(/^as it stands/)
      expect(parked.known).toEqual([`PLC to EM, ${name} parked: not here (R. Osei)`])
    },
  )

  test('the sign-off itself is not asked for', () => expect(opensOf(decidedBut())).toEqual([]))

  test('one point of two is not all of them; both are counted', () => {
    const base = decidedBut('reading')
    const [handshake] = base.handshakes
    if (!handshake) throw new Error('no handshake')
    const points = [
      samplePoint({ quantity: 'Voltage' }),
      samplePoint({ id: 'second', tag: 'Second', quantity: 'Current' }),
    ]
    const job = { ...base, handshakes: [{ ...handshake, points }] }
    const basis = basisOf(handshakeTermsOf(job, handshake), points[0])
    const seen = { ...job, evidence: [sampleEvidence('point', 'point', 'reading', { basis })] }
    expect(opensOf(seen)).toEqual(['Reading not yet proven: PLC to EM (1 of 2 points).'])
    expect(readinessOf(seen, blankWalk).points).toEqual({ proven: 1, of: 2 })
  })

  test('a handshake at odds is told with the rungs at which it is', () => {
    const job = decidedBut('reached')
    const [handshake] = job.handshakes
    const basis = handshake ? basisOf(handshakeTermsOf(job, handshake), undefined) : {}
    const against = sampleEvidence('device', 'EM', 'reached', { verdict: 'at-odds', basis })
    expect(opensOf({ ...job, evidence: [against] })).toEqual(['At odds: PLC to EM (Reached).'])
  })

  test('devices at odds: a finding in the way, and a label that is not the plan', () => {
    const twice = sound()
    const clash = {
      ...twice,
      devices: [...twice.devices, sampleDevice('UPS', '10.20.40.50', { behindId: 'PLC', unitId: 2 })],
    }
    const both = opensOf({ ...clash, handshakes: [...clash.handshakes, ...sampleOf('UPS')] })
    expect(both).toHaveLength(1)
    expect(both[0]).toMatch(/^Line-up: .*10\.20\.40\.50/)
    const job = sound()
    const labelled = {
      ...job,
      devices: job.devices.map((each) => ({ ...each, orderCode: 'A-1', orderCodeFound: 'A-1' })),
    }
    expect(opensOf(labelled)).toEqual([])
    const read = { deviceId: 'EM', setting: 'product-code', standing: 'found', text: 'B-2', how: 'read-live' } as const
    expect(opensOf(labelled, walkWith({ facts: [{ id: 'f', who: 'R. Osei', at: 1, ...read }] }))).toEqual([
      'EM, order code: planned "A-1", on its label "A-1", it says "B-2".',
    ])
  })

  test('a device in no handshake stands against it, until it is let stand by its name', () => {
    const job = { ...sound(), devices: [...sound().devices, sampleDevice('SW', '10.20.40.70')] }
    expect(opensOf(job)).toEqual(['In no handshake, so nothing is compared: SW.'])
    const stood = { rule: NO_HANDSHAKE, subjectId: 'SW', found: 'SW', reason: 'a switch', who: 'R. Osei', at: 1 }
    const acceptances = [{ id: 'a', version: 1, ...stood }]
    expect(opensOf({ ...job, acceptances })).toEqual([])
    expect(recordOf({ ...job, acceptances }).known).toEqual(['Let stand, SW: a switch (R. Osei)'])
  })

  test('what lies on the way of a handshake, and what is plugged into its ends, is in it', () => {
    const rack = { id: 'rack', name: 'rack', medium: 'backplane', family: 'decimal-0-63' } as const
    const node = { id: 'n', name: '', lineId: 'rack', node: 1, isMaster: false, position: 1, version: 1 } as never
    const job = sampleJob({
      lines: [{ ...rack, settings: '', laptopPort: '', timeoutMs: null, retries: null, gatewayMs: null, version: 1 }],
      devices: [
        sampleDevice('PLC', '10.20.40.10'),
        sampleDevice('GW', '10.20.40.11'),
        sampleDevice('FM', null, { ports: [], behindId: 'GW' }),
        sampleDevice('AI', null, { ports: [], behindId: 'PLC', nodes: [node] }),
        sampleDevice('FM-2', null, { ports: [], behindId: 'GW' }),
      ],
      handshakes: [sampleHandshake('PLC', 'FM')],
    })
    expect(inNoHandshake(job).map(({ tag }) => tag)).toEqual(['FM-2'])
  })

  test.each<[string, Partial<WalkRecord>, string]>([
    ['a wait that runs', { steps: [step('waiting')] }, 'Still waited for: EM.'],
    ['something else that was seen', { steps: [step('unexpected')] }, 'Not as it should be, in First contact: EM.'],
    [
      'a run begun',
      { settings: { ...blankWalk.settings, onDemand: [{ id: 'o', deviceId: 'EM', runId: 'restart' }] } },
      'Begun and not finished: ',
    ],
  ])('%s stands against it', (_what, walk, say) => {
    const open = opensOf(sound(), walkWith(walk))
    expect(open).toHaveLength(1)
    expect(open[0]).toContain(say)
  })

  test('a step parked or overridden is known, and does not stand against it', () => {
    const walk = walkWith({ steps: [step('parked'), step('overridden', { id: 't' }), step('done', { id: 'u' })] })
    expect(readinessOf(sound(), walk)).toMatchObject({ open: [], known: [{}, {}] })
  })

  test('a question that is not answered stands against it', () => {
    expect(opensOf({ ...sound(), requests: [request] })).toEqual([
      'Asked of others and not answered: Addresses of the process network (network owner).',
    ])
    expect(opensOf({ ...sound(), requests: [{ ...request, answeredOn: '2026-11-09' }] })).toEqual([])
  })

  test('without a handshake there is nothing to hand over', () =>
    expect(opensOf({ ...sound(), handshakes: [] })).toEqual(['There is no handshake yet.']))
})

describe('the as-left record', () => {
  test('is not ready while anything in the ledger is open, and says each', () => {
    expect(recordOf(sound())).toMatchObject({ readyToHandOver: true, open: [], ledger: [] })
    const held = recordOf({ ...sound(), forced: [forced] }, { temporary: [thing] })
    expect(held.readyToHandOver).toBe(false)
    expect(held.open).toEqual(['1 value is forced. Release first.', 'Not back yet: Key of PLC-101 left in program.'])
    expect(held.ledger.map(({ kind, what, backAt }) => [kind, what, backAt])).toEqual([
      ['forced', 'PD-101 speed forced to 20 %', null],
      ['temporary', 'Key of PLC-101 left in program', null],
    ])
  })

  test('what was open and is back stays in the record, after what is open', () => {
    const back = { ...forced, releasedBy: 'A. Lund', releasedAt: 60_000 }
    expect(recordOf({ ...sound(), forced: [back] }, { temporary: [thing] }).ledger).toMatchObject([
      { kind: 'temporary', backAt: null },
      { kind: 'forced', backBy: 'A. Lund', backAt: '1970-01-01T00:01:00.000Z' },
    ])
  })

  test('devices, terms and rungs', () => {
    const record = recordOf(sound())
    expect(record).toMatchObject({ madeAt: '1970-01-01T00:00:00.000Z', logHash: 'seal', logWhole: true })
    expect(record.devices[1]).toMatchObject({ tag: 'EM', behind: 'PLC', ports: [{ address: '10.20.40.50' }] })
    expect(record.handshakes[0]?.rungs).toHaveLength(9)
    expect(record.handshakes[0]?.terms.find((term) => term.term === 'Address')).toMatchObject({
      controller: '',
      device: '10.20.40.50',
      state: 'unknown',
    })
  })

  test('every point is in it, proven or not, with what was read and what it was compared with', () => {
    const base = decidedBut('reading')
    const [handshake] = base.handshakes
    if (!handshake) throw new Error('no handshake')
    const reference = { value: 230, origin: 'multimeter, R. Osei' }
    const points = [
      samplePoint({ quantity: 'Voltage', reference }),
      samplePoint({ id: 'b', tag: 'B', quantity: 'Current', reference }),
      samplePoint({ id: 'c', tag: 'C', quantity: 'Power', asked: false }),
      samplePoint({ id: 'd', tag: 'D', quantity: 'Energy', asked: false }),
    ]
    const job = { ...base, handshakes: [{ ...handshake, points }] }
    const reading = (place: string, value: number, source: 'live' | 'typed') =>
      ({
        kind: 'reading',
        place,
        source,
        value,
        words: null,
        at: 1,
        asked: '',
        request: '',
        answer: '',
        milliseconds: null,
      }) as const
    const facts = [
      { kind: 'point', tag: 'Tag', quantity: 'Voltage', unit: 'V', decimals: 1 } as const,
      reading('EM', 230.1, 'live'),
      reading('PLC', 230.2, 'typed'),
      {
        kind: 'reference',
        value: 230,
        origin: 'multimeter, R. Osei',
        tolerance: { kind: 'absolute', amount: 1 },
      } as const,
    ]
    const seenOf = (id: string) =>
      sampleEvidence('point', id, 'reading', {
        how: 'typed',
        facts,
        basis: basisOf(
          handshakeTermsOf(job, handshake),
          points.find((each) => each.id === id),
        ),
      })
    const record = recordOf({ ...job, evidence: [seenOf('point'), seenOf('d')] })
    expect(record).toMatchObject({ pointsProven: 1, pointsToProve: 2 })
    expect(
      record.handshakes[0]?.points.map(({ point, state, hasToBeProven }) => [point, state, hasToBeProven]),
    ).toEqual([
      ['Voltage', 'proven', true],
      ['Current', 'not seen yet', true],
      ['Power', 'need not be proven', false],
      ['Energy', 'proven', false],
    ])
    expect(record.handshakes[0]?.points[0]).toMatchObject({
      values: [
        { place: 'EM', shown: '230.1 V', how: 'read live' },
        { place: 'PLC', shown: '230.2 V', how: 'typed' },
      ],
      reference: { shown: '230.0 V', origin: 'multimeter, R. Osei' },
    })
    const [head = [], ...rows] = asLeftTable(record)
    const cell = (row: readonly (string | null)[] | undefined, name: string) => row?.[head.indexOf(name)]
    const [voltage, current, , energy] = rows.filter(([part]) => part === 'point')
    expect(cell(voltage, 'values')).toBe('EM 230.1 V, read live; PLC 230.2 V, typed')
    expect(cell(voltage, 'evidence')).toContain('PLC 230.2 V (typed)')
    expect(cell(current, 'origin of the reference')).toBe('multimeter, R. Osei')
    expect(cell(energy, 'state')).toBe('proven, need not be proven')
  })

  test('the table says what the record says: ready or not, every open point, network, ledger entry, rung and point', () => {
    const record = recordOf({ ...sound(), forced: [forced], requests: [request] }, { temporary: [thing] })
    const [head, ...rows] = asLeftTable(record)
    expect(new Set(rows.map((row) => row.length))).toEqual(new Set([head?.length]))
    expect(rows[0]?.[3]).toBe('as it stands, not ready to hand over')
    const of = (part: string) => rows.filter((row) => row[0] === part)
    expect(of('open point').map((row) => row[1])).toEqual(record.open)
    expect(of('network').map((row) => row[4])).toEqual([
      '10.20.40.0/24, gateway 10.20.40.1, DHCP 10.20.40.150-10.20.40.199, reserved 10.20.40.2-10.20.40.9',
    ])
    expect(of('asked of others').map((row) => [row[1], row[3], row[5]])).toEqual([
      ['Addresses of the process network', 'open', 'network owner'],
    ])
    expect(of('ledger').map((row) => [row[1], row[3]])).toEqual(record.ledger.map((entry) => [entry.what, 'open']))
    expect(of('handshake').map((row) => [row[2], row[3]])).toEqual(
      record.handshakes.flatMap((each) => each.rungs.map((rung) => [rung.rung, rung.state])),
    )
  })
})

const sampleOf = (tag: string) => [
  { ...(sound().handshakes[0] ?? sampleHandshake('PLC', tag)), id: `PLC-${tag}`, deviceId: tag, name: `PLC to ${tag}` },
]
