import fc from 'fast-check'
import { byteOrders, reorder, type ByteOrder } from './byteOrder'
import { maskWriteOfBit, protocolAddress } from '../modbus'
import { compareReading } from './compare'
import type { DataType } from './dataType'
import { parseDecimal } from './decimal'
import { decodeValue } from './decode'
import { encodeValue } from './encode'
import { formatNumber, formatRaw } from './format'
import { scaled } from './scale'
import { allowedDifference, toleranceText } from './tolerance'

const number = (words: readonly number[], type: DataType, order: ByteOrder = 'ABCD') => {
  const read = decodeValue(words, { type, order })
  if (!read.ok) throw new Error(read.refusal.what)
  return read.value.kind === 'number' || read.value.kind === 'whole' ? read.value.value : NaN
}

describe('words and values', () => {
  // IEEE 754: 1.0 = 3F80 0000, 123.456 = 42F6 E979.
  test.each<[readonly number[], DataType, number | bigint]>([
    [[0x3f80, 0], 'float32', 1],
    [[0x42f6, 0xe979], 'float32', Math.fround(123.456)],
    [[0x8000, 0], 'float32', -0],
    [[0x7fc0, 0], 'float32', NaN],
    [[0x7f80, 0], 'float32', Infinity],
    [[0x3ff0, 0, 0, 0], 'float64', 1],
    [[0x80fe], 'uint8-high', 128],
    [[0x80fe], 'uint8-low', 254],
    [[0x80fe], 'int8-high', -128],
    [[0x80fe], 'int8-low', -2],
    [[0xc350], 'int16', -15_536],
    [[0x0a6b], 'int16', 2667],
    [[0x8100], 'int16', -32_512],
    [[0xc350], 'uint16', 50_000],
    [[0xffff, 0xffff], 'int32', -1],
    [[0xffff, 0xffff], 'uint32', 4_294_967_295],
    [[0x8000, 0, 0, 0], 'int64', -(2n ** 63n)],
    [[0xffff, 0xffff, 0xffff, 0xffff], 'uint64', 2n ** 64n - 1n],
    [[0x1234], 'bcd16', 1234],
    [[0x9876, 0x5432], 'bcd32', 98_765_432],
  ])('%j as %s is %p', (words, type, value) => expect(Object.is(number(words, type), value)).toBe(true))

  // 0x12345678 in the four orders: ABCD 1234 5678, CDAB 5678 1234, BADC 3412 7856, DCBA 7856 3412.
  test.each<[ByteOrder, readonly number[]]>([
    ['ABCD', [0x1234, 0x5678]],
    ['CDAB', [0x5678, 0x1234]],
    ['BADC', [0x3412, 0x7856]],
    ['DCBA', [0x7856, 0x3412]],
  ])('0x12345678 travels as %s', (order, words) => {
    expect(number(words, 'uint32', order)).toBe(0x12345678)
    expect(encodeValue({ kind: 'number', value: 0x12345678 }, { type: 'uint32', order })).toEqual({
      ok: true,
      value: words,
    })
  })

  test('64 bits: all words reversed, or inside each half', () => {
    expect(reorder([1, 2, 3, 4], 'CDAB')).toEqual([4, 3, 2, 1])
    expect(reorder([1, 2, 3, 4], 'CDAB-halves')).toEqual([2, 1, 4, 3])
    expect(reorder([0x0102, 2, 3, 4], 'BADC')).toEqual([0x0201, 0x0200, 0x0300, 0x0400])
  })

  test('bits, text and a single bit', () => {
    expect(decodeValue([0x0008], { type: 'bool', order: 'ABCD', bit: 3 })).toEqual({
      ok: true,
      value: { kind: 'bool', value: true },
    })
    const bits = decodeValue([0x8001], { type: 'bits16', order: 'ABCD' })
    expect(bits.ok && formatRaw(bits.value)).toBe('1000 0000 0000 0001')
    expect(decodeValue([0x454d, 0x3500], { type: 'ascii', order: 'ABCD', registers: 2 })).toEqual({
      ok: true,
      value: { kind: 'text', value: 'EM5' },
    })
    expect(decodeValue([0x4d45, 0x0035], { type: 'ascii', order: 'BADC', registers: 2 })).toEqual({
      ok: true,
      value: { kind: 'text', value: 'EM5' },
    })
  })

  test.each<[string, readonly number[], string]>([
    ['left over from a longer text', [0x454d, 0x0039, 0x3939, 0x0100], 'EM'],
    ['spaces and NULs', [0x4120, 0x2000, 0x0000, 0x0000], 'A'],
    ['nothing', [0x0000, 0x4142], ''],
    ['no NUL at all', [0x4142, 0x4344], 'ABCD'],
  ])('a text ends at its first NUL: %s', (_what, words, value) => {
    expect(decodeValue(words, { type: 'ascii', order: 'ABCD', registers: words.length })).toEqual({
      ok: true,
      value: { kind: 'text', value },
    })
  })

  test('writing a byte keeps the other byte of its register, and is refused where that is not known', () => {
    const high = { type: 'uint8-high', order: 'ABCD' } as const
    const of = (value: number) => ({ kind: 'number', value }) as const
    expect(encodeValue(of(0x12), high, [0xabcd])).toEqual({ ok: true, value: [0x12cd] })
    expect(encodeValue(of(-2), { ...high, type: 'int8-low' }, [0xabcd])).toEqual({ ok: true, value: [0xabfe] })
    expect(encodeValue(of(0x12), { ...high, order: 'BADC' }, [0xabcd])).toEqual({ ok: true, value: [0xab12] })
    expect(encodeValue(of(0x12), high)).toMatchObject({ ok: false, refusal: { code: 'value.present' } })
    expect(encodeValue(of(256), high, [0])).toMatchObject({ ok: false, refusal: { code: 'value.range' } })
    expect(encodeValue(of(-129), { ...high, type: 'int8-low' }, [0])).toMatchObject({ ok: false })
  })

  test('writing a bit keeps the other bits of its word, and is refused where they are not known', () => {
    const bit3 = { type: 'bool', order: 'ABCD', bit: 3 } as const
    const set = { kind: 'bool', value: true } as const
    expect(encodeValue(set, bit3, [0xf000])).toEqual({ ok: true, value: [0xf008] })
    expect(encodeValue({ kind: 'bool', value: false }, bit3, [0xffff])).toEqual({ ok: true, value: [0xfff7] })
    expect(encodeValue(set, { ...bit3, order: 'BADC' }, [0x00f0])).toEqual({ ok: true, value: [0x08f0] })
    expect(encodeValue(set, bit3)).toMatchObject({ ok: false, refusal: { code: 'value.present' } })
    expect(encodeValue(set, bit3, [1, 2])).toMatchObject({ ok: false, refusal: { code: 'value.present' } })
    fc.assert(
      fc.property(fc.nat(0xffff), fc.nat(15), fc.boolean(), (word, bit, on) => {
        const written = encodeValue({ kind: 'bool', value: on }, { type: 'bool', order: 'ABCD', bit }, [word])
        const [after = 0] = written.ok ? written.value : []
        expect((after ^ word) & ~(1 << bit)).toBe(0)
        expect(((after >>> bit) & 1) === 1).toBe(on)
        // V1.1b3, 6.16: the server's own arithmetic of the mask write comes to the same word.
        const mask = maskWriteOfBit(protocolAddress(0), bit, on)
        expect((word & mask.andMask) | (mask.orMask & ~mask.andMask & 0xffff)).toBe(after)
      }),
    )
    expect(() => maskWriteOfBit(protocolAddress(0), 16, true)).toThrow(RangeError)
  })

  test.each<[string, readonly number[], DataType, string]>([
    ['a register too few', [1], 'float32', 'value.count'],
    ['a BCD digit above 9', [0x12a4], 'bcd16', 'value.bcd'],
    ['a byte that is no character', [0x0701], 'ascii', 'value.text'],
  ])('%s is refused', (_what, words, type, code) => {
    expect(decodeValue(words, { type, order: 'ABCD', registers: words.length })).toMatchObject({
      ok: false,
      refusal: { code },
    })
  })

  test.each<[DataType, number]>([
    ['uint16', 65_536],
    ['int16', -32_769],
    ['uint32', -1],
    ['bcd16', 10_000],
    ['bcd16', -1],
    ['int16', 32_768],
    ['uint32', 4_294_967_296],
    ['int16', 1.5],
  ])('%s does not take %d', (type, value) =>
    expect(encodeValue({ kind: 'number', value }, { type, order: 'ABCD' }).ok).toBe(false),
  )

  test('decode(encode(x)) = x in every order; Node’s own Buffer agrees on the plain one', () => {
    const orders = Object.keys(byteOrders) as ByteOrder[]
    fc.assert(
      fc.property(
        fc.float({ noNaN: true }),
        fc.integer({ min: -(2 ** 31), max: 2 ** 31 - 1 }),
        fc.bigInt({ min: -(2n ** 63n), max: 2n ** 63n - 1n }),
        fc.constantFrom(...orders),
        (float, int, long, order) => {
          const turn = (value: number | bigint, type: DataType) => {
            const raw =
              typeof value === 'bigint' ? ({ kind: 'whole', value } as const) : ({ kind: 'number', value } as const)
            const words = encodeValue(raw, { type, order })
            return words.ok ? number(words.value, type, order) : undefined
          }
          expect(Object.is(turn(float, 'float32'), float)).toBe(true)
          expect(turn(int, 'int32')).toBe(int)
          expect(turn(long, 'int64')).toBe(long)
          const buffer = Buffer.alloc(4)
          buffer.writeFloatBE(float)
          const plain = encodeValue({ kind: 'number', value: float }, { type: 'float32', order: 'ABCD' })
          expect(plain).toEqual({ ok: true, value: [buffer.readUInt16BE(0), buffer.readUInt16BE(2)] })
        },
      ),
    )
  })
})

describe('scale, tolerance and comparison', () => {
  test('a decimal scale gives the decimal number', () => {
    expect(scaled({ kind: 'number', value: 1234 }, { scale: 0.1, offset: 0 })).toBe(123.4)
    expect(scaled({ kind: 'number', value: 3 }, { scale: 0.1, offset: 0 })).toBe(0.3)
    expect(scaled({ kind: 'number', value: 100 }, { scale: 0.5, offset: -40 })).toBe(10)
    expect(scaled({ kind: 'text', value: 'x' }, { scale: 1, offset: 0 })).toBeUndefined()
  })

  test('the four kinds of tolerance', () => {
    expect(allowedDifference({ kind: 'absolute', amount: 0.5 }, 42.4)).toBe(0.5)
    expect(allowedDifference({ kind: 'percent-of-reading', percent: 1 }, -230)).toBeCloseTo(2.3, 12)
    expect(allowedDifference({ kind: 'percent-of-span', percent: 1, low: 4, high: 20 }, 12)).toBeCloseTo(0.16, 12)
    expect(allowedDifference({ kind: 'resolution', step: 0.1, steps: 2 }, 42)).toBeCloseTo(0.2, 12)
    expect(toleranceText({ kind: 'absolute', amount: 0.5 }, 'V')).toBe('± 0.5 V')
  })

  test.each([
    [42.37, 42.4, 0.5, 'inside'],
    [42.9, 42.4, 0.5, 'inside'],
    [41.9, 42.4, 0.5, 'inside'],
    [42.91, 42.4, 0.5, 'outside'],
    [-42.4, 42.4, 0.5, 'outside'],
    [NaN, 42.4, 0.5, 'not-a-number'],
    [Infinity, 42.4, 0.5, 'not-a-number'],
  ])('%d against %d ± %d is %s', (reading, reference, amount, verdict) => {
    expect(compareReading(reading, reference, { kind: 'absolute', amount }).verdict).toBe(verdict)
  })
})

describe('numbers that people type', () => {
  test.each([
    ['42.37', 42.37],
    [' -3 ', -3],
    ['.5', 0.5],
    ['1e3', 1000],
    ['−7', -7],
  ])('%j is %d', (text, value) => expect(parseDecimal(text)).toEqual({ ok: true, value }))

  test.each<[string, string, readonly string[]]>([
    ['42,37', 'decimal.marks', ['42.37']],
    ['1,234', 'decimal.marks', ['1.234', '1234']],
    ['1.234,5', 'decimal.marks', ['1234.5']],
    ['1 234', 'decimal.marks', ['1234']],
    ['1.234.567', 'decimal.marks', ['1234567']],
    ['42.37 V', 'decimal.unit', ['42.37']],
    ['forty', 'decimal.form', []],
    ['', 'decimal.blank', []],
    ['1e999', 'decimal.range', []],
  ])('%j is refused as %s and offers %j', (text, code, offers) => {
    const read = parseDecimal(text)
    expect(read).toMatchObject({ ok: false, refusal: { code } })
    expect(!read.ok && read.refusal.offers.map((offer) => offer.value)).toEqual(offers)
  })

  test.each([
    [42.3700005, '42.37'],
    [5.8e35, '5.8 × 10^35'],
    [0, '0'],
    [2_061_582_889, '2061582889'],
    [-1.83e-35, '-1.83 × 10^-35'],
    [NaN, 'not a number'],
    [-Infinity, '-infinity'],
    [12_345_678.9, '12345678.9'],
    [123_456_789_012, '123456789012'],
  ])('%d is shown as %s', (value, text) => expect(formatNumber(value)).toBe(text))

  test.each([
    [12_345_678.9, 1, '12345678.9'],
    [12_345_678, 2, '12345678.00'],
    [98_765_432_109.5, 1, '98765432109.5'],
    [0.00005, 5, '0.00005'],
    [0.00002, 1, '0.0'],
    [-0.00002, 1, '0.0'],
    [0, 2, '0.00'],
    [42.37, 0, '42'],
    // What swapped words make is never shown as 0.
    [1.7e-38, 1, '1.7 × 10^-38'],
    [5.8e35, 1, '5.8 × 10^35'],
  ])('%d keeps the %d decimals of its point: %s', (value, decimals, text) =>
    expect(formatNumber(value, decimals)).toBe(text),
  )
})
