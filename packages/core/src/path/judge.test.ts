import { instant } from '../units'
import { decodeValue, encodeValue, type ByteOrder } from '../values'
import { judgePath, type PathQuestion } from './judge'
import type { Observation } from './observation'

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

  test('"not a number" is outside, never inside', () => {
    expect(judgePath(question([hop('FM-201', NaN)])).verdict).toBe('at-odds')
  })

  test('the time between the readings is told', () => {
    expect(
      judgePath(question([hop('FM-201', 42.4), hop('Screen', 42.4, { seen: instant(9000), source: 'typed' })])).apart,
    ).toBe(8000)
  })
})
