import {
  encodeRtuFrame,
  encodeRtuRequest,
  encodeResponse,
  protocolAddress,
  serialUnit,
  type Answer,
  type ModbusRequest,
} from '../modbus'
import {
  adviceFor,
  ageOf,
  asciiSizes,
  characterMs,
  exchangeMs,
  frameGapMs,
  insideGapMs,
  lineSettingsText,
  loadOf,
  pollMs,
  readLineSettings,
  rtuSizes,
  silentOnes,
  usualRates,
  wireMs,
  type LineTiming,
  type Poll,
} from '.'
import { lineAt as line, pollOf as poll, settingsOf as read } from './fixtures'

const at = protocolAddress

describe('times on the line', () => {
  // Modbus over Serial Line V1.02, 2.5.1.1: 11 bits a character; above 19 200 bit/s 750 us and 1.750 ms.
  test.each([
    ['9600 8E1', 1.1458, 1.71875, 4.0104],
    ['9600 8N1', 1.0417, 1.5625, 3.6458],
    ['19200 8E1', 0.5729, 0.8594, 2.0052],
    ['38400 8E1', 0.2865, 0.75, 1.75],
    ['115200 8N2', 0.0955, 0.75, 1.75],
  ])('%s', (text, character, inside, gap) => {
    const settings = read(text)
    expect(characterMs(settings)).toBeCloseTo(character, 4)
    expect(insideGapMs(settings)).toBeCloseTo(inside, 4)
    expect(frameGapMs(settings)).toBeCloseTo(gap, 4)
  })

  test('ten registers at 9 600 8N1, read and written; fifty bytes at 115 200', () => {
    // Worked from the sizes of the specification by hand.
    expect(wireMs(read('9600 8N1'), 8 + 25)).toBeCloseTo(34.375, 6)
    expect(wireMs(read('9600 8N1'), 29 + 8)).toBeCloseTo(38.542, 3)
    expect(wireMs(read('115200 8N1'), 50)).toBeCloseTo(4.34, 2)
  })
})

describe('sizes of frames', () => {
  const requests: readonly ModbusRequest[] = [
    { code: 1, address: at(0), count: 19 },
    { code: 2, address: at(0), count: 8 },
    { code: 3, address: at(0), count: 10 },
    { code: 4, address: at(0), count: 125 },
    { code: 5, address: at(0), value: true },
    { code: 6, address: at(0), value: 1 },
    { code: 15, address: at(0), values: Array<boolean>(10).fill(true) },
    { code: 16, address: at(0), values: Array<number>(10).fill(7) },
    { code: 22, address: at(0), andMask: 1, orMask: 2 },
    { code: 23, address: at(0), count: 6, writeAddress: at(9), values: [1, 2, 3] },
  ]
  const answerTo = (request: ModbusRequest): Answer => {
    if (!('count' in request)) return { written: true }
    return request.code === 1 || request.code === 2
      ? { bits: Array<boolean>(request.count).fill(false) }
      : { words: Array<number>(request.count).fill(0) }
  }
  test.each(requests)('function $code: as many bytes as the codec writes', (request) => {
    const unit = serialUnit(3)
    expect(rtuSizes(request)).toEqual({
      request: encodeRtuRequest({ unit, request }).length,
      answer: encodeRtuFrame(unit, encodeResponse(request, answerTo(request))).length,
    })
    // Each byte of unit, data and LRC is two digits, between a colon and two line ends.
    const { request: asked, answer } = rtuSizes(request)
    expect(asciiSizes(request)).toEqual({ request: 2 * (asked - 1) + 3, answer: 2 * (answer - 1) + 3 })
  })
})

describe('settings as people write them', () => {
  test.each([
    ['9600 8N1', '9600 8N1'],
    ['9600,8,N,1', '9600 8N1'],
    ['19200/8-E-1', '19200 8E1'],
    ['  115200 baud 8 odd 2 ', '115200 8O2'],
    ['19.2k 8 even 1', '19200 8E1'],
    ['19,2k, 7e2', '19200 7E2'],
    ['38400 8 none 2', '38400 8N2'],
    ['31250 8N1', '31250 8N1'],
  ])('%s', (text, short) => {
    expect(lineSettingsText(read(text))).toBe(short)
    expect(read(short)).toEqual(read(text))
  })

  test.each([
    ['', 'blank', undefined],
    ['fast', 'not the setting of a line', undefined],
    ['9601 8N1', '9601 bit/s is nearly 9600', '9600 8N1'],
    ['120000 8E1', 'nearly 115200', '115200 8E1'],
    ['7 8N1', '7 bit/s is no rate of a serial line', undefined],
    ['99000k 8N1', 'no rate of a serial line', undefined],
    ['9600 9N1', '5 to 8 data bits, not 9', undefined],
    ['9600 8N3', '1 or 2 stop bits, not 3', undefined],
    ['9600 8X1', 'not the setting', undefined],
    ['9600 8nope1', 'not the setting', undefined],
    ['8N1', 'not the setting', undefined],
  ])('"%s" is refused', (text, what, offer) => {
    const result = readLineSettings(text)
    if (result.ok) throw new Error('taken')
    expect(result.refusal.what).toContain(what)
    expect(result.refusal.expected).toContain('9600 8N1')
    expect(result.refusal.offers[0]?.value).toBe(offer)
  })
})

describe('a line that is asked', () => {
  test('one exchange is its frames, the silences around the answer, and the device', () => {
    expect(exchangeMs(line(), poll('a', 10))).toBeCloseTo(34.375 + 2 * 3.6458 + 10, 3)
    expect(exchangeMs(line('9600 8N1', { gatewayMs: 5 }), poll('a', 10))).toBeCloseTo(34.375 + 2 * 3.6458 + 15, 3)
    // Nobody answers a broadcast: its turnaround, and no silence for an answer.
    expect(exchangeMs(line(), poll('a', 10, { isBroadcast: true }))).toBeCloseTo(8.333 + 100, 3)
  })

  test.each([
    [0, 1000],
    [3, 4000],
  ])('a silent unit at a timeout of 1 s and %i retries costs %i ms beside its questions', (retries, cost) => {
    const silent = poll('a', 10, { isSilent: true })
    const questions = (1 + retries) * wireMs(line().settings, 8)
    expect(pollMs(line('9600 8N1', { retries }), silent) - questions).toBeCloseTo(cost, 6)
  })

  test('timed polls go first, and what they leave is shared', () => {
    const one = exchangeMs(line(), poll('a', 10))
    const inTurn = [poll('a', 10), poll('b', 10)]
    expect(loadOf(line(), inTurn)).toEqual({ timedLoad: 0, load: 1, roundMs: 2 * one, isOverloaded: false })
    const half = poll('t', 10, { intervalMs: 2 * one })
    expect(loadOf(line(), [half])).toMatchObject({ timedLoad: 0.5, load: 0.5, roundMs: undefined })
    expect(loadOf(line(), [half, ...inTurn]).roundMs).toBeCloseTo(4 * one, 6)
    const tooOften = poll('t', 10, { intervalMs: one / 2 })
    expect(loadOf(line(), [tooOften, ...inTurn])).toMatchObject({
      timedLoad: 2,
      roundMs: undefined,
      isOverloaded: true,
    })
    expect(loadOf(line(), [])).toEqual({ timedLoad: 0, load: 0, roundMs: undefined, isOverloaded: false })
  })

  test('age: best on arrival, worst before the next; what is never answered has none', () => {
    const polls = [poll('a', 10), poll('b', 20)]
    const { roundMs = NaN } = loadOf(line(), polls)
    const age = ageOf(line(), polls, polls[0] as Poll)
    expect(age?.best).toBeCloseTo(wireMs(line().settings, 25) + frameGapMs(line().settings), 6)
    expect((age?.worst ?? 0) - (age?.best ?? 0)).toBeCloseTo(roundMs, 6)
    expect(age?.typical).toBeCloseTo(((age?.best ?? 0) + (age?.worst ?? 0)) / 2, 6)
    const silent = poll('c', 1, { isSilent: true })
    expect(ageOf(line(), [...polls, silent], silent)).toBeUndefined()
    expect(ageOf(line(), polls, poll('t', 1, { intervalMs: 1 }))).toBeDefined()
    const often = poll('t', 10, { intervalMs: 1 })
    expect(ageOf(line(), [often, ...polls], polls[0] as Poll)).toBeUndefined()
  })
})

describe('what could be set', () => {
  const polls = [
    poll('a', 2),
    poll('b', 40),
    poll('c', 125, { deviceMs: 60 }),
    poll('w', 0, { bytes: { request: 60, answer: 8 } }),
  ]

  /** Every choice of `count` of them. */
  const choices = (all: readonly Poll[], count: number): readonly (readonly Poll[])[] =>
    count === 0
      ? [[]]
      : all.flatMap((each, index) => choices(all.slice(index + 1), count - 1).map((rest) => [each, ...rest]))

  test.each([0, 1, 2, 3, 4])('with %i silent no choice makes the round longer: compared with every choice', (count) => {
    for (const at of [line(), line('1200 8E1', { retries: 3, timeoutMs: 90 }), line('115200 8N1', { timeoutMs: 20 })]) {
      const rounds = choices(polls, count).map(
        (silent) =>
          loadOf(
            at,
            polls.map((each) => (silent.includes(each) ? { ...each, isSilent: true } : each)),
          ).roundMs,
      )
      expect(loadOf(at, silentOnes(at, polls, count)).roundMs).toBe(Math.max(...(rounds as number[])))
    }
  })

  test('the lowest rate and the longest timeout that keep a round: one less, or one more, does not', () => {
    const wanted = 2_500
    const keeps = (more: Partial<LineTiming>, silent = 0) => {
      const at = line('9600 8N1', more)
      return (loadOf(at, silentOnes(at, polls, silent)).roundMs ?? Infinity) <= wanted
    }
    const { lowestRate = NaN, mostTimeoutMs = NaN, leastTimeoutMs } = adviceFor(line(), polls, wanted, 1)
    const rate = (baudRate = NaN) => ({ settings: { ...read('9600 8N1'), baudRate } })
    const before = usualRates[usualRates.indexOf(lowestRate) - 1]
    expect([keeps(rate(lowestRate)), keeps(rate(before))]).toEqual([true, false])
    expect([keeps({ timeoutMs: mostTimeoutMs }, 1), keeps({ timeoutMs: mostTimeoutMs + 1 }, 1)]).toEqual([true, false])
    expect(leastTimeoutMs).toBeGreaterThan(60 + wireMs(read('9600 8N1'), 255))
    expect(adviceFor(line(), polls, 10, 1)).toMatchObject({ lowestRate: undefined, mostTimeoutMs: undefined })
  })
})
