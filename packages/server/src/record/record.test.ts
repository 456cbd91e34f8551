import type { LiveReading, ReadingEvidence } from '@calm/contract'
import type { Job, Point } from '@calm/core/job'
import { sampleDevice, sampleHandshake, sampleJob, samplePoint } from '@calm/core/job/fixtures'
import type { KeptReading } from '../live'
import { Refused } from '../store'
import { asLeftRecord } from './asLeft'
import { csvCell, csvText } from '@calm/core/table'
import { readingEvidenceOf } from './judgeReading'

describe('CSV', () => {
  // RFC 4180 2, rules 5 to 7.
  test.each([
    ['plain', 'plain'],
    ['a,b', '"a,b"'],
    ['say "on"', '"say ""on"""'],
    ['two\nlines', '"two\nlines"'],
    [null, ''],
    [undefined, ''],
    [42, '42'],
    [-1.5, '-1.5'],
  ])('%j is written %s', (value, text) => expect(csvCell(value)).toBe(text))

  test.each(['=1+1', '+cmd', '@SUM(A1)', '-2+3', '\tx', '=HYPERLINK("http://x")'])('%j is made harmless', (value) => {
    expect(csvCell(value).replace(/^"/, '').startsWith("'")).toBe(true)
  })

  test('rows end with CR LF, and a spreadsheet is told that it is UTF-8', () => {
    expect(
      csvText([
        ['a', 'b'],
        ['ü', 1],
      ]),
    ).toBe('\ufeffa,b\r\nü,1\r\n')
  })
})

describe('evidence of a reading', () => {
  const point = samplePoint({
    id: 'pt',
    quantity: 'Voltage',
    shownAt: 'Screen',
    served: { register: '40101', type: 'float32', order: 'ABCD' },
    reference: { value: 230, origin: 'multimeter' },
  })
  const jobWith = (change: Partial<Point> = {}): Job =>
    sampleJob({
      devices: [sampleDevice('PLC', '10.20.40.10', { kind: 'controller' }), sampleDevice('EM', '10.20.40.50')],
      handshakes: [sampleHandshake('PLC', 'EM', { id: 'h', points: [{ ...point, ...change }] })],
    })
  const reading = (hop: LiveReading['hop'], value: number | null, more: Partial<LiveReading> = {}): LiveReading => ({
    sequence: 1,
    hop,
    mode: 'bench',
    at: 1_000_000,
    asked: '10.20.40.50:502',
    servedAt: '127.20.40.50:1502',
    requestHex: '',
    responseHex: '',
    roundTripMs: 1,
    words: value === null ? null : [0x4366, 0],
    value,
    text: String(value),
    silence: value === null ? 'Nothing answered within 1000 ms.' : '',
    hint: '',
    ...more,
  })
  const kept =
    (readings: Readonly<Record<number, LiveReading>>, more: Partial<KeptReading> = {}) =>
    (sequence: number) => {
      const found = readings[sequence]
      return found && { handshakeId: 'h', pointId: 'pt', reading: found, ...more }
    }
  const named: ReadingEvidence = {
    pointId: 'pt',
    deviceReading: 1,
    controllerReading: 2,
    controllerTyped: null,
    shownTyped: '230.2',
    typedAt: 1_004_000,
  }
  const judge = (
    readings: Readonly<Record<number, LiveReading>>,
    request: Partial<ReadingEvidence> = {},
    job = jobWith(),
    now = 1_005_000,
  ) => {
    const [handshake] = job.handshakes
    if (!handshake) throw new Error('no handshake')
    return readingEvidenceOf(job, handshake, { ...named, ...request }, kept(readings), now)
  }
  const right = { 1: reading('device', 230.1), 2: reading('controller', 230.1) }
  const refusalOf = (work: () => unknown): string => {
    try {
      work()
    } catch (reason) {
      if (reason instanceof Refused) return reason.problems[0]?.what ?? ''
      throw reason
    }
    return 'taken'
  }

  test('says every hop, the reference and the tolerance; marks what was typed, and the time between', () => {
    expect(judge(right)).toMatchObject({
      verdict: 'proven',
      how: 'typed',
      value:
        'Voltage: EM 230.1 V, PLC 230.1 V, Screen 230.2 V; reference 230.0 V ± 1 V. All 3 hops show the reference within ± 1 V.',
      detail: [
        expect.stringMatching(/^EM: 230\.1 V words 4366 0000, read live at/),
        expect.stringMatching(/^PLC: /),
        expect.stringMatching(/^Screen: 230\.2 V, typed at/),
        'reference 230.0 V, multimeter',
        '4.0 s between the earliest and the latest',
      ],
    })
  })

  test('one hop outside the tolerance: at odds, whatever the page thought', () => {
    expect(judge({ ...right, 2: reading('controller', 999) }).verdict).toBe('at-odds')
    expect(judge(right, { shownTyped: '310' }).verdict).toBe('at-odds')
  })

  test('a hop without a value leaves nothing to record', () => {
    expect(refusalOf(() => judge({ ...right, 1: reading('device', null) }))).toMatch(
      /There is nothing to record yet\. EM: Nothing answered/,
    )
  })

  test('a controller that cannot be asked is typed', () => {
    expect(judge(right, { controllerReading: null, controllerTyped: '230.0' })).toMatchObject({ verdict: 'proven' })
    expect(refusalOf(() => judge(right, { controllerReading: null, controllerTyped: 'two hundred' }))).toBe(
      '"two hundred" is not a number.',
    )
  })

  test('readings of long ago, of another handshake, of the other mode, or never made', () => {
    expect(refusalOf(() => judge(right, {}, jobWith(), 1_000_000 + 16 * 60_000))).toMatch(/not known here any more/)
    expect(refusalOf(() => judge(right, { deviceReading: 77 }))).toMatch(/not known here any more/)
    const [handshake] = jobWith().handshakes
    if (!handshake) throw new Error('no handshake')
    expect(
      refusalOf(() => readingEvidenceOf(jobWith(), handshake, named, kept(right, { handshakeId: 'other' }), 1_005_000)),
    ).toMatch(/not known here/)
    expect(refusalOf(() => judge(right, {}, { ...jobWith(), mode: 'plant' }))).toBe(
      'This reading was made on the bench.',
    )
  })

  test('without a reference there is nothing to compare with', () => {
    expect(refusalOf(() => judge(right, {}, jobWith({ reference: null })))).toBe(
      'There is no reference to compare with.',
    )
  })
})

describe('the as-left record', () => {
  test('says what is open, and is not ready while something is', () => {
    const job = sampleJob({
      devices: [sampleDevice('PLC', '10.20.40.10'), sampleDevice('EM', '10.20.40.50', { behindId: 'PLC' })],
      handshakes: [sampleHandshake('PLC', 'EM')],
      forced: [
        {
          id: 'f',
          where: 'PD-101',
          value: '20 %',
          who: 'R. Osei',
          at: 0,
          releasedBy: null,
          releasedAt: null,
          version: 1,
        },
      ],
    })
    const record = asLeftRecord(job, 0, 'seal')
    expect(record).toMatchObject({ madeAt: '1970-01-01T00:00:00.000Z', readyToHandOver: false, logHash: 'seal' })
    expect(record.open).toEqual(['1 value is forced. Release first.', 'Reading not yet proven: PLC to EM.'])
    expect(record.devices[1]).toMatchObject({ tag: 'EM', behind: 'PLC', ports: [{ address: '10.20.40.50' }] })
    expect(record.handshakes[0]?.rungs).toHaveLength(9)
    expect(record.handshakes[0]?.terms.find((term) => term.term === 'Address')).toMatchObject({
      controller: '',
      device: '10.20.40.50',
      state: 'unknown',
    })
  })
})
