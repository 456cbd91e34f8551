import { sayEvidence, sayEvidenceInFull } from '@calm/core/evidence'
import type { LiveReading, ReadingEvidence } from '@calm/contract'
import type { Job, Point } from '@calm/core/job'
import { sampleDevice, sampleHandshake, sampleJob, samplePoint, sampleTerms } from '@calm/core/job/fixtures'
import { hopPlan, planText, type KeptReading } from '../live'
import type { TermId } from '@calm/core/terms'
import { Refused } from '../store'
import { csvCell, csvText } from '@calm/core/table'
import { readingEvidenceOf } from './judgeReading'

describe('CSV', () => {
  // RFC 4180 2, rules 5 to 7.
  test.each([
    ['plain', 'plain'],
    ['a,b', '"a,b"'],
    ['say "on"', '"say ""on"""'],
    ['two\nlines', '"two\nlines"'],
    ['a;b', '"a;b"'],
    ['a\tb', '"a\tb"'],
    [null, ''],
    [undefined, ''],
    [42, '42'],
    [-1.5, '-1.5'],
  ])('%j is written %s', (value, text) => expect(csvCell(value)).toBe(text))

  test.each(['=1+1', '+cmd', '@SUM(A1)', '-2+3', '\tx', '=HYPERLINK("http://x")'])('%j is made harmless', (value) => {
    expect(csvCell(value).replace(/^"/, '').startsWith("'")).toBe(true)
  })

  test('what begins a cell where the list is opened with another separator is no formula either', () => {
    expect(csvCell('a;=1+1')).toBe('"a;\'=1+1"')
    expect(csvCell('a\t@SUM(A1)')).toBe('"a\t\'@SUM(A1)"')
    expect(csvCell('a; -cmd')).toBe('"a; \'-cmd"')
    expect(csvCell('10; -5')).toBe('"10; -5"')
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
    pointId: 'pt',
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
    unsure: '',
    ...more,
  })
  const kept =
    (readings: Readonly<Record<number, LiveReading>>, more: Partial<KeptReading> = {}) =>
    (sequence: number) => {
      const found = readings[sequence]
      return found && { handshakeId: 'h', pointId: 'pt', reading: found, asked: askedBy(jobWith(), found.hop), ...more }
    }
  const askedBy = (job: Job, hop: LiveReading['hop']) => {
    const [handshake] = job.handshakes
    const [asked] = handshake?.points ?? []
    if (!handshake || !asked) throw new Error('nothing to ask')
    return planText(hopPlan(job, handshake, asked, hop))
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
  /** A job whose ends say everything that a read needs. */
  const whole = (): Job => {
    const job = jobWith()
    const terms = [
      ...sampleTerms('function-code', '04'),
      ...sampleTerms('first-register', '0'),
      ...sampleTerms('count', '2'),
      ...sampleTerms('data-type', 'float32'),
      ...sampleTerms('word-order', 'ABCD'),
    ]
    return {
      ...job,
      devices: job.devices.map((each) => ({ ...each, unitId: 1 })),
      handshakes: job.handshakes.map((each) => ({ ...each, terms })),
    }
  }
  const withTerms = (job: Job, termId: TermId, text: string): Job => ({
    ...job,
    handshakes: job.handshakes.map((each) => ({
      ...each,
      terms: [...each.terms.filter((row) => row.termId !== termId), ...sampleTerms(termId, text)],
    })),
  })
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
    const seen = judge(right)
    expect(seen).toMatchObject({ verdict: 'proven', how: 'typed' })
    expect(sayEvidence(seen.facts)).toBe(
      'Voltage: EM 230.1 V, PLC 230.1 V, Screen 230.2 V (typed); reference 230.0 V ± 1 V. All 3 hops show the reference within ± 1 V.',
    )
    expect(sayEvidenceInFull(seen.facts)).toEqual([
      expect.stringMatching(/^EM: 230\.1 V words 4366 0000, read live at/),
      expect.stringMatching(/^PLC: /),
      expect.stringMatching(/^Screen: 230\.2 V, typed at/),
      'reference 230.0 V, multimeter',
      '4.0 s between the earliest and the latest',
    ])
    // Kept as facts, not only in words: what was asked, and what came back.
    expect(seen.facts).toContainEqual(
      expect.objectContaining({
        kind: 'reading',
        place: 'EM',
        value: 230.1,
        words: [0x4366, 0],
        asked: '10.20.40.50:502',
      }),
    )
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
    const unsure = { ...right, 1: reading('device', 230, { unsure: 'Frames came unasked.' }) }
    expect(refusalOf(() => judge(unsure))).toMatch(/^Frames came unasked\. A value of then proves nothing\./)
    expect(refusalOf(() => judge(right, {}, { ...jobWith(), mode: 'plant' }))).toBe(
      'This reading was made on the bench.',
    )
  })

  test.each<[string, (job: Job) => Job]>([
    [
      'address',
      (job) => ({
        ...job,
        devices: job.devices.map((each) => ({
          ...each,
          ports: each.ports.map((port) => ({ ...port, address: '10.20.40.77' })),
        })),
      }),
    ],
    ['unit', (job) => ({ ...job, devices: job.devices.map((each) => ({ ...each, unitId: 9 })) })],
    [
      'port',
      (job) => ({
        ...job,
        devices: job.devices.map((each) => ({
          ...each,
          ports: each.ports.map((port) => ({ ...port, tcpPort: 1502 })),
        })),
      }),
    ],
    ['register', (job) => withTerms(job, 'first-register', '7')],
    ['count', (job) => withTerms(job, 'count', '4')],
    ['function', (job) => withTerms(job, 'function-code', '03')],
    ['word order', (job) => withTerms(job, 'word-order', 'CDAB')],
    ['data type', (job) => withTerms(job, 'data-type', 'int32')],
    ['scale', (job) => withTerms(job, 'scale', '0.1')],
  ])('a reading made before the %s changed proves nothing about the new plan', (_what, change) => {
    const before = whole()
    const after = change(before)
    const readings = { 1: reading('device', 230.1), 2: reading('controller', 230.1) }
    const asked = (sequence: number): KeptReading | undefined => {
      const found = readings[sequence as 1 | 2]
      return found && { handshakeId: 'h', pointId: 'pt', reading: found, asked: askedBy(before, found.hop) }
    }
    const judgeOn = (job: Job) => {
      const [handshake] = job.handshakes
      if (!handshake) throw new Error('no handshake')
      return readingEvidenceOf(job, handshake, named, asked, 1_005_000)
    }
    expect(judgeOn(before).verdict).toBe('proven')
    expect(refusalOf(() => judgeOn(after))).toMatch(/made before the plan changed/)
  })

  test('a reading of the controller does not stand in for one of the device', () => {
    const both = { 1: reading('controller', 230.1), 2: reading('controller', 230.1) }
    expect(refusalOf(() => judge(both))).toBe('This is a reading of the controller.')
  })

  test('the time of typing lies between the reading and now', () => {
    for (const typedAt of [0, 900_000, 1_000_000 - 2_001])
      expect(refusalOf(() => judge(right, { typedAt }))).toMatch(/typed before the reading was made/)
    for (const typedAt of [1_005_000 + 2_001, 1_900_000_000_000, 8.64e15 + 1])
      expect(refusalOf(() => judge(right, { typedAt }))).toMatch(/still to come/)
    // Two clocks that differ by a moment: moved to the nearer end, never outside.
    expect(sayEvidenceInFull(judge(right, { typedAt: 999_500 }).facts).at(-1)).toBe(
      '0.0 s between the earliest and the latest',
    )
    expect(sayEvidenceInFull(judge(right, { typedAt: 1_006_000 }).facts).at(-1)).toBe(
      '5.0 s between the earliest and the latest',
    )
  })

  test('without a reference there is nothing to compare with', () => {
    expect(refusalOf(() => judge(right, {}, jobWith({ reference: null })))).toBe(
      'There is no reference to compare with.',
    )
  })
})
