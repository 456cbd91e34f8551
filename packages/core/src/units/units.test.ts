import { instant, milliseconds } from './quantities'
import { parseWholeNumber } from './wholeNumber'

const field = { name: 'Unit id', min: 1, max: 247, reason: '0 is broadcast.' }

describe('whole numbers that people type', () => {
  test.each([
    ['1', 1],
    [' 247 ', 247],
  ])('%j is %d', (text, value) => expect(parseWholeNumber(text, field)).toEqual({ ok: true, value }))

  test.each([
    ['', 'number.unit-id.blank'],
    ['0', 'number.unit-id.range'],
    ['248', 'number.unit-id.range'],
    ['-1', 'number.unit-id.not-whole'],
    ['1.0', 'number.unit-id.not-whole'],
    ['1e2', 'number.unit-id.not-whole'],
    ['0x10', 'number.unit-id.not-whole'],
    ['12 3', 'number.unit-id.not-whole'],
    ['99999999999999999999', 'number.unit-id.range'],
  ])('%j is refused as %s, with what was found and what is expected', (text, code) => {
    const read = parseWholeNumber(text, field)
    expect(read).toMatchObject({ ok: false, refusal: { code, expected: 'a whole number from 1 to 247' } })
  })

  test('a leading zero could be octal: refused, with the decimal reading offered', () => {
    expect(parseWholeNumber('010', field)).toMatchObject({
      refusal: { code: 'number.unit-id.leading-zero', offers: [{ value: '10' }] },
    })
  })

  test('the reason of a limit is told with it', () => {
    const read = parseWholeNumber('0', field)
    expect(!read.ok && read.refusal.what).toBe('Unit id 0 is outside 1 to 247. 0 is broadcast.')
  })
})

describe('quantities', () => {
  test('a length of time is never negative or endless, an instant always finite: else the program is wrong', () => {
    expect(milliseconds(0)).toBe(0)
    for (const wrong of [-1, NaN, Infinity]) expect(() => milliseconds(wrong)).toThrow(RangeError)
    expect(instant(-5)).toBe(-5)
    for (const wrong of [NaN, Infinity]) expect(() => instant(wrong)).toThrow(RangeError)
  })
})
