import { sampleDevice, sampleHandshake, sampleJob, samplePoint } from '../job/fixtures'
import type { ForcedValue, Job } from '../job'
import type { Decision } from '../ladder'
import type { TemporaryThing } from '../procedure'
import { asLeftRecord } from './asLeft'
import { asLeftTable } from './asLeftTable'
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
/** A job whose every rung that hand-over asks for is proven. */
const sound = (): Job => {
  const decided = (rung: Decision['rung'], state: Decision['state']) => ({
    id: rung,
    rung,
    state,
    reason: 'not here',
    who: 'R. Osei',
    at: 1 as Decision['at'],
  })
  return sampleJob({
    devices: [sampleDevice('PLC', '10.20.40.10'), sampleDevice('EM', '10.20.40.50', { behindId: 'PLC' })],
    handshakes: [sampleHandshake('PLC', 'EM', { points: [samplePoint()], decisions: [decided('reading', 'parked')] })],
  })
}
const recordOf = (job: Job, temporary: readonly TemporaryThing[] = []) =>
  asLeftRecord({ job, temporary, madeAt: 0, logHash: 'seal', logWhole: true })

describe('readiness', () => {
  test('nothing open: ready', () => expect(readinessOf(sound(), [])).toMatchObject({ blocks: [], openCount: 0 }))

  test.each<[string, Partial<Job>, readonly TemporaryThing[], string]>([
    ['a forced value', { forced: [forced] }, [], '1 value is forced. Release first.'],
    ['two of them', { forced: [forced, { ...forced, id: 'g' }] }, [], '2 values are forced. Release first.'],
    ['a thing left', {}, [thing], 'Not back yet: Key of PLC-101 left in program.'],
  ])('%s keeps hand-over shut until it is seen back', (_what, change, temporary, block) => {
    const job = { ...sound(), ...change }
    expect(readinessOf(job, temporary).blocks).toEqual([block])
    const released = job.forced.map((each) => ({ ...each, releasedBy: 'R. Osei', releasedAt: 9 }))
    const back = temporary.map((each) => ({ ...each, backBy: 'R. Osei', backAt: 9 }))
    expect(readinessOf({ ...job, forced: released }, back)).toMatchObject({ blocks: [], openCount: 0 })
  })

  test('a reading that waits, or is not begun, is not proven', () => {
    const job = sound()
    const withDecision = (state: Decision['state']): Job => ({
      ...job,
      handshakes: job.handshakes.map((each) => ({
        ...each,
        decisions: each.decisions.map((decision) => ({ ...decision, state })),
      })),
    })
    for (const state of ['waiting', 'in-hand', 'none'] as const)
      expect(readinessOf(withDecision(state), []).blocks).toEqual(['Reading not yet proven: PLC to EM.'])
    for (const state of ['parked', 'not-apply'] as const)
      expect(readinessOf(withDecision(state), []).blocks).toEqual([])
    expect(readinessOf(withDecision('waiting'), []).rungs.find((rung) => rung.rung === 'reading')).toMatchObject({
      counts: { waiting: 1, proven: 0 },
      open: [{ state: 'waiting' }],
    })
  })

  test('without a handshake there is nothing to hand over', () =>
    expect(readinessOf({ ...sound(), handshakes: [] }, []).blocks).toEqual(['There is no handshake yet.']))
})

describe('the as-left record', () => {
  test('is not ready while anything in the ledger is open, and says each', () => {
    expect(recordOf(sound())).toMatchObject({ readyToHandOver: true, open: [], ledger: [] })
    const held = recordOf({ ...sound(), forced: [forced] }, [thing])
    expect(held.readyToHandOver).toBe(false)
    expect(held.open).toEqual(['1 value is forced. Release first.', 'Not back yet: Key of PLC-101 left in program.'])
    expect(held.ledger.map(({ kind, what, backAt }) => [kind, what, backAt])).toEqual([
      ['forced', 'PD-101 speed forced to 20 %', null],
      ['temporary', 'Key of PLC-101 left in program', null],
    ])
  })

  test('what was open and is back stays in the record, after what is open', () => {
    const back = { ...forced, releasedBy: 'A. Lund', releasedAt: 60_000 }
    expect(recordOf({ ...sound(), forced: [back] }, [thing]).ledger).toMatchObject([
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

  test('the table says what the record says: ready or not, every open point, ledger entry and rung', () => {
    const record = recordOf({ ...sound(), forced: [forced] }, [thing])
    const [head, ...rows] = asLeftTable(record)
    expect(new Set(rows.map((row) => row.length))).toEqual(new Set([head?.length]))
    expect(rows[0]?.[3]).toBe('not ready')
    const of = (part: string) => rows.filter((row) => row[0] === part)
    expect(of('open point').map((row) => row[1])).toEqual(record.open)
    expect(of('ledger').map((row) => [row[1], row[3]])).toEqual(record.ledger.map((entry) => [entry.what, 'open']))
    expect(of('handshake').map((row) => [row[2], row[3]])).toEqual(
      record.handshakes.flatMap((each) => each.rungs.map((rung) => [rung.rung, rung.state])),
    )
  })
})
