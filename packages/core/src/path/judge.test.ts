import { instant } from '../units'
import { decodeValue, encodeValue, type ByteOrder } from '../values'
import { judgePath, type PathQuestion } from './judge'
import type { Observation } from './observation'
import { ageText, staleMs } from './stale'

const hop = (at: string, value: number | undefined, more: Partial<Observation> = {}): Observation => ({
  at,
  value,
  words: undefined,
  seen: value === undefined ? undefined : instant(1000),
  source: 'live',
  silence: value === undefined ? 'Nothing answered within 1000 ms.' : '',
  ...more,
})
const question = (hops: readonly Observation[], more: Partial<PathQuestion> = {}): PathQuestion => ({
  hops,
  reference: 42.4,
  tolerance: { kind: 'absolute', amount: 0.5 },
  unit: 'm³/h',
  format: { type: 'float32', order: 'ABCD' },
  scale: 1,
  ...more,
})
/** What a controller makes of a device's value when it takes the words in another order. */
const takenAs = (value: number, sent: ByteOrder, taken: ByteOrder): number => {
  const words = encodeValue({ kind: 'number', value }, { type: 'float32', order: sent })
  const read = words.ok ? decodeValue(words.value, { type: 'float32', order: taken }) : undefined
  return read?.ok && read.value.kind === 'number' ? read.value.value : NaN
}

describe('the path of a value', () => {
  test('right at every hop', () => {
    expect(judgePath(question([hop('FM-201', 42.37), hop('PLC-101', 42.37), hop('Screen', 42.4)]))).toMatchObject({
      verdict: 'proven',
      say: 'All 3 hops show the reference within ± 0.5 m³/h.',
      apart: 0,
    })
  })

  // The words 7AE1 4229 of 42.37, taken the wrong way round, are 5.8e35 (IEEE 754).
  test('swapped words are named, at the hop where they are taken wrongly', () => {
    const wrong = takenAs(42.37, 'CDAB', 'ABCD')
    expect(wrong).toBeGreaterThan(5.7e35)
    const judged = judgePath(
      question([hop('FM-201', 42.37), hop('PLC-101', wrong), hop('Screen', 9999.9)], {
        format: { type: 'float32', order: 'CDAB' },
      }),
    )
    expect(judged.verdict).toBe('at-odds')
    expect(judged.say).toBe('The words arrive whole. PLC-101 takes them as high word first.')
    expect(judged.hops.map((each) => each.turnsWrongHere)).toEqual([false, true, false])
    expect(judged.hops[2]?.say).toBe('Wrong from the hop before')
  })

  test('it is named although the device’s value moved between the two polls', () => {
    const judged = judgePath(question([hop('FM-201', 42.31), hop('PLC-101', takenAs(42.44, 'ABCD', 'BADC'))]))
    expect(judged.say).toBe('The words arrive whole. PLC-101 takes them as high word first, bytes swapped.')
  })

  test('wrong at the device already: look there first', () => {
    expect(judgePath(question([hop('FM-201', 12), hop('PLC-101', 12)])).say).toMatch(
      /^FM-201 itself does not show the reference/,
    )
  })

  test('wrong for a reason that no order explains', () => {
    expect(judgePath(question([hop('FM-201', 42.4), hop('PLC-101', 17)])).say).toBe(
      'Right up to FM-201; wrong at PLC-101.',
    )
  })

  test('a hop without a value, or no reference, leaves it open', () => {
    expect(judgePath(question([hop('FM-201', 42.4), hop('PLC-101', undefined)]))).toMatchObject({
      verdict: 'open',
      say: 'PLC-101: Nothing answered within 1000 ms.',
    })
    expect(judgePath(question([hop('FM-201', 42.4)], { reference: undefined })).verdict).toBe('open')
    expect(judgePath(question([])).verdict).toBe('open')
  })

  test('each hop says how it stands', () => {
    const says = (hops: readonly Observation[], more: Partial<PathQuestion> = {}) =>
      judgePath(question(hops, more)).hops.map((each) => [each.state, each.say])
    expect(says([hop('FM-201', 42.4), hop('PLC-101', undefined, { silence: '' }), hop('Screen', 17)])).toEqual([
      ['inside', 'Inside ± 0.5 m³/h'],
      ['no-value', 'No value yet.'],
      ['outside', 'The number turns wrong here'],
    ])
    expect(says([hop('FM-201', 42.4)], { reference: undefined })).toEqual([
      ['no-reference', 'Nothing to compare with yet.'],
    ])
    expect(judgePath(question([hop('FM-201', 42.4)], { reference: undefined })).say).toMatch(/^Type a reference/)
    expect(judgePath(question([hop('FM-201', undefined)])).hops[0]?.comparison).toBeUndefined()
  })

  test('one observation, or one without a value, has no time between', () => {
    expect(judgePath(question([hop('FM-201', 42.4)])).apart).toBeUndefined()
    const silent = hop('PLC-101', undefined, { seen: instant(60_000) })
    expect(judgePath(question([hop('FM-201', 42.4), silent])).apart).toBeUndefined()
    const unseen = hop('PLC-101', 42.4, { seen: undefined })
    expect(judgePath(question([hop('FM-201', 42.4), unseen, hop('Screen', 42.4, { seen: instant(4000) })])).apart).toBe(
      3000,
    )
  })

  test('a swap is named with the scale of the value, and never without a format or with the order it has', () => {
    const scaledDown = 42.4 / 0.1
    const wrong = takenAs(scaledDown, 'ABCD', 'CDAB') * 0.1
    const hops = [hop('FM-201', 42.4), hop('PLC-101', wrong)]
    expect(judgePath(question(hops, { scale: 0.1 })).say).toMatch(/takes them as low word first/)
    // 43A2 4248 is 324.5178 (IEEE 754): at a tenth with 10 added 42.4518; the words swapped are 50.0660, and so 15.0066.
    const moved = takenAs(324.517822265625, 'ABCD', 'CDAB') * 0.1 + 10
    const shifted = question([hop('FM-201', 42.4), hop('PLC-101', moved)], { scale: 0.1, offset: 10 })
    expect(judgePath(shifted).say).toMatch(/takes them as low word first/)
    expect(judgePath(question(hops, { scale: 0 })).say).toBe('Right up to FM-201; wrong at PLC-101.')
    expect(judgePath(question(hops, { scale: 0.1, format: undefined })).say).toMatch(/^Right up to/)
    // Near 0 swapped words would explain everything: 3.0 put back the other way is 2.3 × 10^-41.
    const near = [hop('FM-201', 0), hop('PLC-101', 3)]
    expect(judgePath(question(near, { reference: 0, tolerance: { kind: 'absolute', amount: 1 } })).say).toMatch(
      /^Right up/,
    )
    const text = { type: 'ascii', order: 'ABCD', registers: 2 } as const
    expect(judgePath(question(near, { reference: 0, format: text })).say).toMatch(/^Right up/)
  })

  // A value is stale after three intervals: common practice, no source.
  test('a live value that stands still is not inside any more, whatever it shows', () => {
    const [at, interval] = [1000, 500]
    expect(staleMs(at, interval, at + 1500)).toBeUndefined()
    expect(staleMs(at, interval, at + 1501)).toBe(1501)
    const judged = judgePath(question([hop('FM-201', 42.4), hop('PLC-101', 42.4, { staleMs: 30_000 })]))
    expect(judged).toMatchObject({ verdict: 'open', say: 'PLC-101: Stale: read 30 s ago, and not since.' })
    expect(judged.hops.map(({ state }) => state)).toEqual(['inside', 'stale'])
    expect(judgePath(question([hop('FM-201', 17, { staleMs: 3_000 })])).verdict).toBe('open')
    expect([1_600, 12_300, 300_000].map(ageText)).toEqual(['1.6 s', '12 s', '5 min'])
  })

  test('"not a number" is outside, never inside', () => {
    expect(judgePath(question([hop('FM-201', NaN)])).verdict).toBe('at-odds')
  })

  test('the time between the readings is told', () => {
    expect(
      judgePath(question([hop('FM-201', 42.4), hop('Screen', 42.4, { seen: instant(9000), source: 'typed' })])).apart,
    ).toBe(8000)
  })
})
