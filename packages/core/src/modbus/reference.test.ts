import fc from 'fast-check'
import { protocolAddress } from './address'
import { formatReference, notations, parseReference, type Notation } from './reference'
import { tableOfFunction, tables, type Table } from './tables'
import { parseUnitId } from './unitId'

const readings = (text: string, notation?: Notation, table?: Table) => {
  const read = parseReference(text, { notation, table })
  if (!read.ok) throw new Error(read.refusal.what)
  return read.value.map(({ notation: name, table, address }) => [name, table, address])
}

describe('register references', () => {
  // 40 108 - 40 001 = 0x6B is the specification's own example (V1.1b3, 6.3: register 108 is address 107).
  test('40108 is holding register 108, address 107; it could also be a plain number', () => {
    expect(readings('40108')).toEqual([
      ['five-digit', 'holding-registers', 107],
      ['protocol', undefined, 40_108],
      ['number', undefined, 40_107],
    ])
  })

  test.each<[string, Notation, Table | undefined, number]>([
    ['400108', 'six-digit', 'holding-registers', 107],
    ['465536', 'six-digit', 'holding-registers', 65_535],
    ['49999', 'five-digit', 'holding-registers', 9998],
    ['30001', 'five-digit', 'input-registers', 0],
    ['10001', 'five-digit', 'discrete-inputs', 0],
    ['00001', 'five-digit', 'coils', 0],
    ['0x006B', 'hex', undefined, 107],
    ['6Bh', 'hex', undefined, 107],
    ['16#6B', 'hex', undefined, 107],
    ['4x2500', 'table-x-from-1', 'holding-registers', 2499],
    ['107', 'protocol', undefined, 107],
    ['0', 'protocol', undefined, 0],
  ])('%s is read first as %s', (text, notation, table, address) =>
    expect(readings(text)[0]).toEqual([notation, table, address]),
  )

  test('4x2500 may count from 0 or from 1: both are told', () => {
    expect(readings('4x2500')).toEqual([
      ['table-x-from-1', 'holding-registers', 2499],
      ['table-x-from-0', 'holding-registers', 2500],
    ])
  })

  test('0x12 is hexadecimal, and could be coil 12', () => {
    expect(readings('0x12')).toEqual([
      ['hex', undefined, 18],
      ['table-x-from-1', 'coils', 11],
      ['table-x-from-0', 'coils', 12],
    ])
  })

  test('the notation of the document leaves one reading', () => {
    expect(readings('40108', 'protocol')).toEqual([['protocol', undefined, 40_108]])
    expect(readings('108', 'number')).toEqual([['number', undefined, 107]])
  })

  test('the conversion is told in words', () => {
    const read = parseReference('40108')
    expect(read.ok && read.value[0]?.explanation).toBe('40108 is holding register number 108, address 107 in the frame')
  })

  test('a bit of a register', () => {
    expect(parseReference('40108.3')).toMatchObject({ ok: true, value: [{ address: 107, bit: 3 }, {}, {}] })
    expect(parseReference('40108.16')).toMatchObject({ ok: false, refusal: { code: 'reference.bit' } })
  })

  test.each([
    ['', 'reference.blank'],
    ['70000', 'reference.range'],
    ['-1', 'reference.range'],
    ['6B', 'reference.hex-mark'],
    ['5x100', 'reference.form'],
    ['holding3', 'reference.form'],
    ['0x1FFFF', 'reference.form'],
  ])('%j is refused as %s', (text, code) =>
    expect(parseReference(text)).toMatchObject({ ok: false, refusal: { code } }),
  )

  test('a reference in the wrong notation is refused, with the right writing offered', () => {
    const read = parseReference('0x6B', { notation: 'five-digit', table: 'holding-registers' })
    expect(read).toMatchObject({ ok: false, refusal: { code: 'reference.notation', offers: [{ value: '40108' }] } })
  })

  test('what is written in a notation is read back in it', () => {
    const names = Object.keys(notations) as Notation[]
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 65_535 }),
        fc.constantFrom(...names),
        fc.constantFrom(...(Object.keys(tables) as Table[])),
        (value, notation, table) => {
          const text = formatReference(protocolAddress(value), notation, table)
          // Five digits end at number 9999, address 9998: that is said, not worked round.
          expect(text.ok).toBe(notation !== 'five-digit' || value <= 9998)
          if (!text.ok) return expect(text.refusal.code).toBe('reference.five-digits')
          expect(parseReference(text.value, { notation, table })).toMatchObject({
            ok: true,
            value: [{ address: value }],
          })
        },
      ),
    )
  })
})

// V1.1b3, clause 6: each function code works on one table.
describe('the table of the function code', () => {
  test.each<[number, Table | undefined]>([
    [1, 'coils'],
    [5, 'coils'],
    [15, 'coils'],
    [2, 'discrete-inputs'],
    [4, 'input-registers'],
    [3, 'holding-registers'],
    [6, 'holding-registers'],
    [16, 'holding-registers'],
    [22, 'holding-registers'],
    [23, 'holding-registers'],
    [43, undefined],
  ])('%d: %s', (code, table) => expect(tableOfFunction(code)).toBe(table))

  test.each<[string, Table, readonly unknown[]]>([
    [
      '40108',
      'holding-registers',
      [
        ['five-digit', 'holding-registers', 107],
        ['protocol', undefined, 40_108],
        ['number', undefined, 40_107],
      ],
    ],
    ['0x12', 'holding-registers', [['hex', undefined, 18]]],
    [
      '0x12',
      'coils',
      [
        ['hex', undefined, 18],
        ['table-x-from-1', 'coils', 11],
        ['table-x-from-0', 'coils', 12],
      ],
    ],
    [
      '107',
      'input-registers',
      [
        ['protocol', undefined, 107],
        ['number', undefined, 106],
      ],
    ],
  ])('%s for %s leaves only what fits it', (text, table, expected) =>
    expect(readings(text, undefined, table)).toEqual(expected),
  )

  test.each<[string, Table, Notation | undefined]>([
    ['40108', 'input-registers', undefined],
    ['40108', 'input-registers', 'five-digit'],
    ['30001', 'holding-registers', undefined],
    ['400108', 'input-registers', undefined],
    ['4x108', 'input-registers', undefined],
    ['4x108', 'input-registers', 'table-x-from-0'],
    ['00001', 'holding-registers', undefined],
    ['10001', 'coils', undefined],
  ])('%s contradicts %s and is not read as something else', (text, table, notation) =>
    expect(parseReference(text, { table, notation })).toMatchObject({
      ok: false,
      refusal: { code: 'reference.table' },
    }),
  )

  test('the notation of the document, when it is said, counts: 40108 may be an address', () => {
    expect(readings('40108', 'protocol', 'input-registers')).toEqual([['protocol', undefined, 40_108]])
  })

  test('a single bit has no bits of its own', () => {
    expect(parseReference('12.3', { table: 'coils' })).toMatchObject({
      refusal: { code: 'reference.bit-of-bit', offers: [{ value: '12' }] },
    })
    expect(parseReference('12.3', { table: 'holding-registers' }).ok).toBe(true)
  })

  test('no table is made up where none is known', () => {
    expect(formatReference(protocolAddress(107), 'five-digit', undefined)).toMatchObject({
      refusal: { code: 'reference.table-unknown' },
    })
    expect(formatReference(protocolAddress(107), 'hex', undefined)).toEqual({ ok: true, value: '0x006B' })
    const wrong = parseReference('0x6B', { notation: 'five-digit' })
    expect(wrong).toMatchObject({ refusal: { code: 'reference.notation', offers: [] } })
  })

  test.each([
    ['40 108', ['40108']],
    ['4 0108', ['40108']],
    ["40'108", ['40108']],
    ['40_108', ['40108']],
    ['holding 3', []],
  ])('%j has something inside: refused, offers %j', (text, offers) => {
    const read = parseReference(text)
    expect(read).toMatchObject({ ok: false, refusal: { code: 'reference.blanks', found: text } })
    expect(!read.ok && read.refusal.offers.map((offer) => offer.value)).toEqual(offers)
  })
})

describe('unit ids', () => {
  // Modbus over Serial Line V1.02, 2.2; Messaging on TCP/IP V1.0b, 4.4.2.3.
  test.each([
    ['1', 'serial', true],
    ['247', 'serial', true],
    ['0', 'serial', false],
    ['248', 'serial', false],
    ['255', 'serial', false],
    ['255', 'tcp', true],
    ['0', 'tcp', true],
    ['248', 'tcp', false],
    ['256', 'tcp', false],
    ['', 'tcp', false],
    ['1.5', 'tcp', false],
    ['01', 'tcp', false],
  ] as const)('%j on %s: %s', (text, carrier, good) => expect(parseUnitId(text, carrier).ok).toBe(good))

  test('248 is refused with what was found and what is expected', () => {
    expect(parseUnitId('248', 'tcp')).toMatchObject({
      refusal: { found: '248', expected: 'a whole number from 1 to 247' },
    })
  })
})
