import fc from 'fast-check'
import { protocolAddress } from './address'
import { hexText } from './bytes'
import { decodeRequest } from './decodeRequest'
import { decodeResponse } from './decodeResponse'
import { encodeRequest } from './encodeRequest'
import { encodeResponse } from './encodeResponse'
import { exceptionMeaning } from './exceptions'
import { anyRequest, answerTo, bytesOf } from './fixtures'
import { limits } from './limits'
import type { ModbusRequest } from './request'

const at = protocolAddress
const plain = (hex: string) => hexText(bytesOf(hex))

describe('the worked examples of the Modbus Application Protocol Specification V1.1b3, clause 6', () => {
  test.each<[string, ModbusRequest, string, string, object]>([
    ['6.1', { code: 1, address: at(0x13), count: 19 }, '01 0013 0013', '01 03 CD6B05', { kind: 'bits' }],
    ['6.2', { code: 2, address: at(0xc4), count: 22 }, '02 00C4 0016', '02 03 ACDB35', { kind: 'bits' }],
    [
      '6.3',
      { code: 3, address: at(0x6b), count: 3 },
      '03 006B 0003',
      '03 06 022B 0000 0064',
      { kind: 'words', words: [0x022b, 0, 0x64] },
    ],
    ['6.4', { code: 4, address: at(8), count: 1 }, '04 0008 0001', '04 02 000A', { kind: 'words', words: [10] }],
    ['6.5', { code: 5, address: at(0xac), value: true }, '05 00AC FF00', '05 00AC FF00', { kind: 'written' }],
    ['6.6', { code: 6, address: at(1), value: 3 }, '06 0001 0003', '06 0001 0003', { kind: 'written' }],
    [
      '6.11',
      { code: 15, address: at(0x13), values: [1, 0, 1, 1, 0, 0, 1, 1, 1, 0].map(Boolean) },
      '0F 0013 000A 02 CD01',
      '0F 0013 000A',
      { kind: 'written', count: 10 },
    ],
    [
      '6.12',
      { code: 16, address: at(1), values: [0x0a, 0x0102] },
      '10 0001 0002 04 000A 0102',
      '10 0001 0002',
      { kind: 'written', count: 2 },
    ],
    [
      '6.16',
      { code: 22, address: at(4), andMask: 0xf2, orMask: 0x25 },
      '16 0004 00F2 0025',
      '16 0004 00F2 0025',
      { kind: 'written' },
    ],
    [
      '6.17',
      { code: 23, address: at(3), count: 6, writeAddress: at(14), values: [0xff, 0xff, 0xff] },
      '17 0003 0006 000E 0003 06 00FF 00FF 00FF',
      '17 0C 00FE 0ACD 0001 0003 000D 00FF',
      { kind: 'words', words: [0xfe, 0x0acd, 1, 3, 0x0d, 0xff] },
    ],
  ])('%s', (_clause, request, asked, answered, expected) => {
    expect(hexText(encodeRequest(request))).toBe(plain(asked))
    expect(decodeRequest(bytesOf(asked))).toEqual({ request })
    expect(decodeResponse(request, bytesOf(answered))).toMatchObject({ ok: true, value: expected })
  })

  test('6.1: the bits of CD 6B 05 are coils 20 to 38, low bit first', () => {
    const answer = decodeResponse({ code: 1, address: at(0x13), count: 19 }, bytesOf('01 03 CD6B05'))
    const bits = answer.ok && answer.value.kind === 'bits' ? answer.value.bits : []
    expect(bits.map(Number).join('')).toBe('1011001111010110101')
  })

  test('6.21: read device identification, basic', () => {
    const request: ModbusRequest = { code: 43, category: 'basic', object: 0 }
    expect(hexText(encodeRequest(request))).toBe('2B 0E 01 00')
    const text = (value: string) => Buffer.from(value, 'latin1').toString('hex')
    // The example's layout with invented texts: conformity 01, nothing follows, three objects.
    const answer = `2B 0E 01 01 00 00 03 00 06 ${text('Sample')} 01 04 ${text('EM3F')} 02 05 ${text('V2.11')}`
    expect(decodeResponse(request, bytesOf(answer))).toMatchObject({
      ok: true,
      value: {
        kind: 'identity',
        objects: [
          { id: 0, text: 'Sample' },
          { id: 1, text: 'EM3F' },
          { id: 2, text: 'V2.11' },
        ],
      },
    })
  })

  test('7: an exception is an answer of its own kind, with its meaning', () => {
    const answer = decodeResponse({ code: 1, address: at(0x04a1), count: 1 }, bytesOf('81 02'))
    expect(answer).toEqual({ ok: true, value: { kind: 'exception', functionCode: 1, exception: 2 } })
    expect(exceptionMeaning(2).name).toBe('illegal data address')
    expect(exceptionMeaning(11).name).toBe('gateway target failed to respond')
    expect(exceptionMeaning(77).name).toBe('exception 77')
  })
})

describe('limits of clause 6', () => {
  test.each<[string, ModbusRequest]>([
    ['126 registers', { code: 3, address: at(0), count: 126 }],
    ['2001 coils', { code: 1, address: at(0), count: 2001 }],
    ['no register', { code: 4, address: at(0), count: 0 }],
    ['124 registers written', { code: 16, address: at(0), values: new Array(124).fill(0) }],
    ['1969 coils written', { code: 15, address: at(0), values: new Array(1969).fill(false) }],
    [
      '122 registers written while reading',
      { code: 23, address: at(0), count: 1, writeAddress: at(0), values: new Array(122).fill(0) },
    ],
    ['past the last address', { code: 3, address: at(65_535), count: 2 }],
    ['a value of 17 bits', { code: 6, address: at(0), value: 0x10000 }],
  ])('%s cannot be encoded', (_what, request) => expect(() => encodeRequest(request)).toThrow(RangeError))

  test('the largest allowed requests fit a PDU of 253 bytes', () => {
    expect(encodeRequest({ code: 15, address: at(0), values: new Array(1968).fill(true) }).length).toBeLessThanOrEqual(
      limits.pduBytes,
    )
    expect(encodeRequest({ code: 16, address: at(0), values: new Array(123).fill(1) }).length).toBeLessThanOrEqual(
      limits.pduBytes,
    )
    expect(
      encodeRequest({ code: 23, address: at(0), count: 125, writeAddress: at(0), values: new Array(121).fill(1) })
        .length,
    ).toBe(limits.pduBytes - 1)
  })

  test.each([
    ['an unknown function', '64 0000', 1],
    ['126 registers', '03 0000 007E', 3],
    ['a span past the end', '03 FFFF 0002', 2],
    ['a coil value that is neither', '05 0000 1234', 3],
    ['a byte count that does not fit', '10 0000 0002 03 000000', 3],
    ['another encapsulated interface', '2B 0D 00', 1],
  ])('a server answers %s with exception %#', (_what, pdu, exception) => {
    expect(decodeRequest(bytesOf(pdu))).toMatchObject({ exception })
  })
})

describe('answers that do not fit the request are never a value', () => {
  const ask: ModbusRequest = { code: 3, address: at(0), count: 2 }
  test.each([
    ['empty', '', 'empty'],
    ['only the function', '03', 'too-short'],
    ['another function', '04 04 0000 0000', 'wrong-function'],
    ['one register less', '03 02 0000', 'wrong-byte-count'],
    ['one register more', '03 06 0000 0000 0000', 'wrong-byte-count'],
    ['cut short', '03 04 0000 00', 'wrong-length'],
    ['a byte too many', '03 04 0000 0000 00', 'wrong-length'],
    ['an exception with a tail', '83 02 00', 'wrong-length'],
    ['an exception of another function', '84 02', 'wrong-function'],
  ])('%s', (_what, pdu, reason) => {
    expect(decodeResponse(ask, bytesOf(pdu))).toMatchObject({ ok: false, refusal: { reason } })
  })

  test('padding bits that are set, and a confirmation that differs', () => {
    expect(decodeResponse({ code: 1, address: at(0), count: 3 }, bytesOf('01 01 0F'))).toMatchObject({
      refusal: { reason: 'wrong-padding' },
    })
    expect(decodeResponse({ code: 6, address: at(1), value: 3 }, bytesOf('06 0001 0004'))).toMatchObject({
      refusal: { reason: 'wrong-echo' },
    })
  })

  test.each([
    ['ids that fall', '2B 0E 01 01 00 00 02 01 01 41 00 01 42', 'wrong-object'],
    ['an object that ends too early', '2B 0E 01 01 00 00 01 00 09 41', 'too-short'],
    ['bytes after the last object', '2B 0E 01 01 00 00 01 00 01 41 99', 'wrong-length'],
    ['a next object though nothing follows', '2B 0E 01 01 00 05 01 00 01 41', 'wrong-object'],
    ['another category', '2B 0E 02 01 00 00 01 00 01 41', 'wrong-echo'],
  ])('an identification with %s', (_what, pdu, reason) => {
    expect(decodeResponse({ code: 43, category: 'basic', object: 0 }, bytesOf(pdu))).toMatchObject({
      ok: false,
      refusal: { reason },
    })
  })
})

describe('properties', () => {
  test('decodeRequest(encodeRequest(x)) = x', () => {
    fc.assert(fc.property(anyRequest, (request) => expect(decodeRequest(encodeRequest(request))).toEqual({ request })))
  })

  test('the right answer to a request decodes to what was answered', () => {
    fc.assert(
      fc.property(anyRequest, fc.integer({ min: 0, max: 0xffff }), (request, seed) => {
        const answer = answerTo(request, seed)
        const read = decodeResponse(request, encodeResponse(request, answer))
        expect(read.ok).toBe(true)
        if (!read.ok) return
        if ('words' in answer) expect(read.value).toMatchObject({ words: answer.words })
        if ('bits' in answer) expect(read.value).toMatchObject({ bits: answer.bits })
        if ('objects' in answer) expect(read.value).toMatchObject({ objects: answer.objects })
      }),
    )
  })

  test('bytes that decode to a value are exactly the bytes that a server would send for it', () => {
    const reads = anyRequest.filter((request) => request.code <= 4)
    const mangled = fc.tuple(
      reads,
      fc.integer({ min: 0, max: 0xffff }),
      fc.array(fc.tuple(fc.nat(300), fc.integer({ min: 0, max: 255 })), { maxLength: 3 }),
      fc.integer({ min: -2, max: 2 }),
    )
    fc.assert(
      fc.property(mangled, ([request, seed, changes, stretch]) => {
        const sent = [...encodeResponse(request, answerTo(request, seed))]
        for (const [place, byte] of changes) sent[place % sent.length] = byte
        const bytes = Uint8Array.from(stretch < 0 ? sent.slice(0, stretch) : [...sent, ...new Array(stretch).fill(0)])
        const read = decodeResponse(request, bytes)
        if (!read.ok) return
        const { value } = read
        const again =
          value.kind === 'words'
            ? { words: value.words }
            : value.kind === 'bits'
              ? { bits: value.bits }
              : value.kind === 'exception'
                ? { exception: value.exception }
                : undefined
        expect(again).toBeDefined()
        if (again) expect(encodeResponse(request, again)).toEqual(bytes)
      }),
      { numRuns: 500 },
    )
  })

  test('no random bytes are taken for a value unless they have the form of one', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 40 }), (bytes) => {
        const read = decodeResponse({ code: 3, address: at(0), count: 4 }, bytes)
        const looksRight = bytes.length === 10 && bytes[0] === 3 && bytes[1] === 8
        if (read.ok && read.value.kind === 'words') expect(looksRight).toBe(true)
      }),
    )
  })
})
