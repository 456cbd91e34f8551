import { byteOrders, reorder } from './byteOrder'
import { compareReading } from './compare'
import { parseDecimal } from './decimal'
import { decodeValue } from './decode'
import { encodeValue } from './encode'
import { formatNumber, formatRaw } from './format'
import { scaled } from './scale'
import { allowedDifference, toleranceText } from './tolerance'
import type { RawValue, ValueFormat } from './value'

const written = (raw: RawValue, format: ValueFormat, present?: readonly number[]) => {
  const words = encodeValue(raw, format, present)
  return words.ok ? words.value : words.refusal.code
}
const number = (value: number): RawValue => ({ kind: 'number', value })

describe('writing what a type can hold', () => {
  // The ends of each range by IEC 61131-3, table 10 (two's complement), and of BCD by its digits.
  test.each<[ValueFormat['type'], number, number]>([
    ['uint16', 0, 65_535],
    ['int16', -32_768, 32_767],
    ['uint32', 0, 4_294_967_295],
    ['int32', -2_147_483_648, 2_147_483_647],
    ['bcd16', 0, 9_999],
    ['bcd32', 0, 99_999_999],
  ])('%s holds %d to %d and nothing beyond', (type, low, high) => {
    const format = { type, order: 'ABCD' } as const
    for (const value of [low, high]) {
      const words = encodeValue(number(value), format)
      const back = words.ok ? decodeValue(words.value, format) : undefined
      expect(back).toEqual({ ok: true, value: { kind: 'number', value } })
    }
    for (const value of [low - 1, high + 1]) expect(written(number(value), format)).toBe('value.range')
  })

  test('64 bits to the last one', () => {
    const whole = (value: bigint): RawValue => ({ kind: 'whole', value })
    const format = { type: 'int64', order: 'ABCD' } as const
    expect(written(whole(2n ** 63n - 1n), format)).toEqual([0x7fff, 0xffff, 0xffff, 0xffff])
    expect(written(whole(2n ** 63n), format)).toBe('value.range')
    expect(written(whole(-(2n ** 63n)), format)).toEqual([0x8000, 0, 0, 0])
    expect(written(whole(2n ** 64n), { ...format, type: 'uint64' })).toBe('value.range')
  })

  test('sixteen bits, and nothing but sixteen', () => {
    const bits = Array.from({ length: 16 }, (_, k) => k === 0 || k === 15)
    const format = { type: 'bits16', order: 'ABCD' } as const
    expect(written({ kind: 'bits', value: bits }, format)).toEqual([0x8001])
    expect(written({ kind: 'bits', value: bits }, { ...format, order: 'BADC' })).toEqual([0x0180])
    expect(written({ kind: 'bits', value: bits.slice(1) }, format)).toBe('value.kind')
    expect(written(number(1), format)).toBe('value.kind')
  })

  test('text in as many registers as there are', () => {
    const format = { type: 'ascii', order: 'ABCD', registers: 2 } as const
    const text = (value: string): RawValue => ({ kind: 'text', value })
    expect(written(text('EM5'), format)).toEqual([0x454d, 0x3500])
    expect(written(text('EM-5'), format)).toEqual([0x454d, 0x2d35])
    expect(written(text('EM-50'), format)).toBe('value.text')
    expect(written(text('é'), format)).toBe('value.text')
    expect(written(text('a\n'), format)).toBe('value.text')
    for (const order of ['BADC', 'DCBA', 'DCBA-halves'] as const)
      expect(written(text('EM-5'), { ...format, order })).toEqual([0x4d45, 0x352d])
    for (const order of ['CDAB', 'CDAB-halves'] as const)
      expect(written(text('EM-5'), { ...format, order })).toEqual([0x454d, 0x2d35])
    expect(written(number(5), format)).toBe('value.kind')
  })

  test.each<[ValueFormat['type'], RawValue]>([
    ['float32', { kind: 'text', value: '1' }],
    ['float64', { kind: 'whole', value: 1n }],
    ['uint16', { kind: 'bool', value: true }],
    ['int32', { kind: 'text', value: '1' }],
    ['bool', { kind: 'number', value: 1 }],
  ])('%s does not take %j', (type, raw) =>
    expect(written(raw.kind === 'whole' ? { kind: 'text', value: 'x' } : raw, { type, order: 'ABCD' }, [0])).toBe(
      'value.kind',
    ),
  )

  test('a double is not a float: its four words (IEEE 754: 1.0 = 3FF0 0000 0000 0000)', () => {
    expect(written(number(1), { type: 'float64', order: 'ABCD' })).toEqual([0x3ff0, 0, 0, 0])
    expect(written(number(1), { type: 'float32', order: 'ABCD' })).toEqual([0x3f80, 0])
  })

  test('what does not fit is named', () => {
    const refused = encodeValue({ kind: 'bits', value: [true] }, { type: 'uint16', order: 'ABCD' })
    expect(!refused.ok && refused.refusal.found).toBe('a set of bits')
    const text = encodeValue({ kind: 'text', value: 'x' }, { type: 'uint16', order: 'ABCD' })
    expect(!text.ok && text.refusal.found).toBe('x')
  })
})

describe('reading', () => {
  test('one bit of a register is on or off by itself', () => {
    const bit = (word: number, at?: number) => decodeValue([word], { type: 'bool', order: 'ABCD', bit: at })
    expect(bit(0xfff7, 3)).toEqual({ ok: true, value: { kind: 'bool', value: false } })
    expect(bit(0x0001)).toEqual({ ok: true, value: { kind: 'bool', value: true } })
    expect(bit(0xfffe)).toEqual({ ok: true, value: { kind: 'bool', value: false } })
  })
  test('a text keeps the blanks inside it; the first and the last printable sign are signs', () => {
    const text = (words: readonly number[], order: ValueFormat['order'] = 'ABCD') =>
      decodeValue(words, { type: 'ascii', order, registers: words.length })
    expect(text([0x4120, 0x4220])).toEqual({ ok: true, value: { kind: 'text', value: 'A B' } })
    expect(text([0x207e])).toEqual({ ok: true, value: { kind: 'text', value: ' ~' } })
    expect(text([0x417f])).toMatchObject({
      refusal: { what: 'Byte 7F is not a printable character, so this is not plain text.' },
    })
    expect(text([0x41e9])).toMatchObject({ refusal: { found: 'E9' } })
    expect(text([0x1f41])).toMatchObject({ refusal: { found: '1F' } })
    expect(text([0x4d45, 0x0035], 'DCBA-halves')).toEqual({ ok: true, value: { kind: 'text', value: 'EM5' } })
  })
  test('a count that does not fit is told in words; so is a digit above 9', () => {
    const said = (words: readonly number[], type: ValueFormat['type']) => {
      const read = decodeValue(words, { type, order: 'ABCD' })
      return read.ok ? '' : `${read.refusal.what} ${read.refusal.found}`
    }
    expect(said([], 'uint16')).toBe('uint 16 takes 1 register; 0 arrived. 0 registers')
    expect(said([1], 'float32')).toBe('float 32 takes 2 registers; 1 arrived. 1 registers')
    expect(said([0x1a2b], 'bcd16')).toBe('1A2B has a digit above 9, so it is not BCD. 1A2B')
  })
  test('words of a pair and of halves', () => {
    expect(reorder([1, 2], 'CDAB-halves')).toEqual([2, 1])
    expect(reorder([1], 'CDAB-halves')).toEqual([1])
    expect(reorder([0x0102, 0x0304, 0x0506, 0x0708], 'DCBA-halves')).toEqual([0x0403, 0x0201, 0x0807, 0x0605])
    expect(Object.keys(byteOrders)).toHaveLength(6)
  })
})

describe('what is shown', () => {
  test.each<[RawValue, string]>([
    [{ kind: 'bool', value: true }, 'on'],
    [{ kind: 'bool', value: false }, 'off'],
    [{ kind: 'whole', value: 2n ** 63n }, '9223372036854775808'],
    [{ kind: 'text', value: 'EM-501' }, '"EM-501"'],
    [{ kind: 'number', value: 42.375 }, '42.375'],
    [{ kind: 'bits', value: Array.from({ length: 16 }, (_, k) => k < 4) }, '0000 0000 0000 1111'],
  ])('%p as %s', (raw, text) => expect(formatRaw(raw)).toBe(text))
  test('a number of a point by its decimals', () =>
    expect(formatRaw({ kind: 'number', value: 42.375 }, 1)).toBe('42.4'))
  test.each([
    [Infinity, 'infinity'],
    [1e15, '1 × 10^15'],
    [999_999_999_999_999, '999999999999999'],
    [1e10 + 0.5, '1 × 10^10'],
    [9_999_999_999.5, '10000000000'],
    [0.0001, '0.0001'],
    [0.00009, '9 × 10^-5'],
    [9_999_999.55, '10000000'],
    [10_000_000.25, '10000000.25'],
    [-0.5, '-0.5'],
  ])('%d without decimals: %s', (value, text) => expect(formatNumber(value)).toBe(text))
  test.each([
    [1e15, 0, '1 × 10^15'],
    [1e-9, 3, '0.000'],
    [9e-10, 3, '9 × 10^-10'],
    [-1.25, 1, '-1.3'],
    [-0.04, 1, '0.0'],
    [-0.06, 1, '-0.1'],
  ])('%d with %d decimals: %s', (value, decimals, text) => expect(formatNumber(value, decimals)).toBe(text))
})

describe('scale and tolerance', () => {
  test('an offset alone, a whole number of 64 bits, a fraction that stays one', () => {
    expect(scaled(number(20), { scale: 1, offset: 5 })).toBe(25)
    expect(scaled({ kind: 'whole', value: 100n }, { scale: 0.1, offset: 0 })).toBe(10)
    expect(scaled(number(Infinity), { scale: 0.1, offset: 0 })).toBe(Infinity)
    expect(scaled(number(0.1), { scale: 3, offset: 0 })).toBe(0.1 * 3)
    expect(scaled({ kind: 'bool', value: true }, { scale: 2, offset: 0 })).toBeUndefined()
    expect(Object.is(scaled(number(-0), { scale: 1, offset: 0 }), -0)).toBe(true)
  })
  test.each([
    [{ kind: 'absolute', amount: 0.5 }, '± 0.5 V'],
    [{ kind: 'percent-of-reading', percent: 1 }, '± 1 % of the reference'],
    [{ kind: 'percent-of-span', percent: 2, low: 4, high: 20 }, '± 2 % of 4 to 20 V'],
    [{ kind: 'resolution', step: 0.1, steps: 1 }, '± 1 step of 0.1 V'],
    [{ kind: 'resolution', step: 0.1, steps: 3 }, '± 3 steps of 0.1 V'],
  ] as const)('%j reads %s', (tolerance, text) => expect(toleranceText(tolerance, 'V')).toBe(text))
  test('the band, and its edge up to the rounding of binary fractions', () => {
    const one = { kind: 'absolute', amount: 0.5 } as const
    expect(compareReading(42.37, 42.4, one)).toMatchObject({ low: 41.9, high: 42.9, allowed: 0.5 })
    expect(compareReading(42.5, 42.4, one).difference).toBeCloseTo(0.1, 12)
    expect(compareReading(1_000_000.1, 1_000_000, { kind: 'absolute', amount: 0.1 }).verdict).toBe('inside')
    expect(compareReading(1_000_000.1001, 1_000_000, { kind: 'absolute', amount: 0.1 }).verdict).toBe('outside')
    expect(compareReading(0.3, 0.1, { kind: 'absolute', amount: 0.2 }).verdict).toBe('inside')
    expect(compareReading(5, 5, { kind: 'absolute', amount: 0 }).verdict).toBe('inside')
    expect(compareReading(5, NaN, one).verdict).toBe('not-a-number')
    expect(allowedDifference({ kind: 'percent-of-span', percent: 10, low: -10, high: 10 }, 0)).toBe(2)
  })
})

describe('numbers as they are typed', () => {
  test.each([
    ['+5', 5],
    ['-.25', -0.25],
    ['5.', 5],
    ['1e-3', 0.001],
    ['1E+3', 1000],
    ['–7.5', -7.5],
    ['0.125', 0.125],
  ])('%j is %d', (text, value) => expect(parseDecimal(text)).toEqual({ ok: true, value }))
  test.each<[string, string, readonly string[]]>([
    ['-1,5', 'decimal.marks', ['-1.5']],
    ['1,5', 'decimal.marks', ['1.5']],
    ['1,2345', 'decimal.marks', ['1.2345']],
    ['12,345,678', 'decimal.marks', ['12345678']],
    ['1,234.5', 'decimal.marks', ['1234.5']],
    ["1'234.5", 'decimal.marks', ['1234.5']],
    ['1 234,5', 'decimal.marks', ['1234.5']],
    ['5 bar', 'decimal.unit', ['5']],
    ['-0,5bar', 'decimal.unit', ['-0.5']],
    ['.5 V', 'decimal.unit', ['.5']],
    ['12,5 %', 'decimal.unit', ['12.5']],
    ['x 5', 'decimal.form', []],
    ['about 5 V', 'decimal.form', []],
    ['5e', 'decimal.unit', ['5']],
    ['--5', 'decimal.form', []],
    ['.', 'decimal.form', []],
    [',', 'decimal.form', []],
  ])('%j is refused as %s and offers %j', (text, code, offers) => {
    const read = parseDecimal(text)
    expect(read).toMatchObject({ ok: false, refusal: { code } })
    expect(!read.ok && read.refusal.offers.map((offer) => offer.value)).toEqual(offers)
  })
})
