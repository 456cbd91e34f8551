import { decodeIdentity } from './decodeIdentity'
import { decodeRequest } from './decodeRequest'
import { decodeResponse } from './decodeResponse'
import { encodeException, encodeResponse } from './encodeResponse'
import { encodeRequest } from './encodeRequest'
import { functionText } from './functions'
import { maskWriteOfBit } from './maskWrite'
import { protocolAddress, registerNumber } from './address'
import { parseReference } from './reference'
import type { ModbusRequest } from './request'
import { identificationNames } from './response'
import { decodeRtuFrame, encodeRtuFrame, rtuResponseLength, serialBody } from './rtu'
import { decodeAsciiFrame, encodeAsciiFrame } from './ascii'
import { decodeTcpFrame, encodeTcpFrame, readTcpHeader, TcpFramer } from './tcp'
import { parseUnitId, serialUnit, tcpUnit } from './unitId'
import { limits } from './limits'

const bytes = (hex: string) => Uint8Array.from(hex.match(/[0-9A-F]{2}/g) ?? [], (pair) => parseInt(pair, 16))
const at = protocolAddress
type Ask43 = Extract<ModbusRequest, { code: 43 }>
const basic: Ask43 = { code: 43, category: 'basic', object: 0 }

/** 43/14, basic, conformity 01, nothing follows, two objects: 0 "AB", 1 "C". Built by the table of V1.1b3, 6.21. */
const WHOLE = '2B 0E 01 01 00 00 02 00 02 41 42 01 01 43'
const identity = (hex: string, ask: Ask43 = basic) => decodeIdentity(ask, bytes(hex))
const reason = (hex: string, ask?: Ask43) => {
  const read = identity(hex, ask)
  return read.ok ? 'read' : `${read.refusal.reason}: found ${read.refusal.found}, expected ${read.refusal.expected}`
}

describe('identification, byte by byte (V1.1b3, 6.21)', () => {
  test('is read as it was sent', () => {
    expect(identity(WHOLE)).toEqual({
      ok: true,
      value: {
        kind: 'identity',
        code: 43,
        conformity: 1,
        moreFrom: undefined,
        objects: [
          { id: 0, text: 'AB' },
          { id: 1, text: 'C' },
        ],
      },
    })
    expect(identificationNames[0]).toBe('vendor name')
  })

  test('with no objects at all it is as long as its header', () => {
    expect(identity('2B 0E 01 01 00 00 00')).toMatchObject({ ok: true, value: { objects: [] } })
  })

  test('what follows is named, above the last object given', () => {
    expect(identity('2B 0E 01 01 FF 02 02 00 02 41 42 01 01 43')).toMatchObject({ ok: true, value: { moreFrom: 2 } })
    expect(identity('2B 0E 01 01 FF 01 00')).toMatchObject({ ok: true, value: { moreFrom: 1, objects: [] } })
    expect(identity('2B 0E 01 01 FF 00 00')).toMatchObject({ ok: true, value: { moreFrom: 0 } })
  })

  test.each<[string, string, string]>([
    ['cut in its header', '2B 0E 01 01 00 00', 'too-short: found 6 bytes, expected at least 7'],
    ['of another encapsulation', WHOLE.replace('0E', '0D'), 'wrong-echo: found 13, expected 14'],
    ['of another category', '2B 0E 02 01 00 00 00', 'wrong-echo: found 2, expected 1'],
    ['of no known conformity', '2B 0E 01 04 00 00 00', 'wrong-echo: found 4, expected 1 to 3, or 0x81 to 0x83'],
    ['with a third kind of "more follows"', '2B 0E 01 01 01 00 00', 'wrong-echo: found 1, expected 0 or 255'],
    ['with something next though nothing follows', '2B 0E 01 01 00 05 00', 'wrong-object: found 5, expected 0'],
    [
      'cut before the length of an object',
      '2B 0E 01 01 00 00 01 00',
      'too-short: found 8 bytes, expected the length its objects name',
    ],
    [
      'cut within an object',
      '2B 0E 01 01 00 00 01 00 02 41',
      'too-short: found 10 bytes, expected the length its objects name',
    ],
    [
      'with fewer objects than it counts',
      '2B 0E 01 01 00 00 02 00 01 41',
      'too-short: found 10 bytes, expected the length its objects name',
    ],
    ['with one object twice', '2B 0E 01 01 00 00 02 01 01 41 01 01 42', 'wrong-object: found 1, expected above 1'],
    ['with objects that fall', '2B 0E 01 01 00 00 02 02 01 41 01 01 42', 'wrong-object: found 1, expected above 2'],
    ['with a byte left over', `${WHOLE} 00`, 'wrong-length: found 15 bytes, expected 14 bytes'],
    ['that goes on where it was', '2B 0E 01 01 FF 01 01 01 01 41', 'wrong-object: found 1, expected above 1'],
    ['that goes on before it was', '2B 0E 01 01 FF 00 01 01 01 41', 'wrong-object: found 0, expected above 1'],
  ])('an answer %s is refused', (_what, hex, why) => expect(reason(hex)).toBe(why))

  test('the place of a short object is told', () => {
    const read = identity('2B 0E 01 01 00 00 02 00 01 41')
    expect(!read.ok && read.refusal.what).toBe('Object 2 of 2 ends too early.')
  })

  test('one object: exactly that one', () => {
    const one: Ask43 = { code: 43, category: 'one-object', object: 5 }
    expect(identity('2B 0E 04 81 00 00 01 05 01 41', one)).toMatchObject({ ok: true, value: { conformity: 0x81 } })
    expect(reason('2B 0E 04 81 00 00 01 04 01 41', one)).toBe('wrong-object: found 4, expected 5')
    expect(reason('2B 0E 04 81 00 00 00', one)).toBe('wrong-object: found none, expected 5')
    expect(reason('2B 0E 04 81 00 00 02 05 01 41 06 01 42', one)).toBe('wrong-object: found 5, expected 5')
  })
})

describe('requests as a server reads them (V1.1b3, clause 6)', () => {
  const asked = (hex: string) => {
    const read = decodeRequest(bytes(hex))
    return 'exception' in read ? read.exception : read.request
  }

  test.each<[string, string, 1 | 2 | 3]>([
    ['one byte more', '03 00 00 00 01 00', 3],
    ['one byte less', '03 00 00 00', 3],
    ['a count of none', '03 00 00 00 00', 3],
    ['126 registers', '03 00 00 00 7E', 3],
    ['2 001 bits', '01 00 00 07 D1', 3],
    ['past the last register', '04 FF FF 00 02', 2],
    ['past the last coil', '01 FF FF 00 02', 2],
    ['a coil neither on nor off', '05 00 00 FF 01', 3],
    ['a coil with a byte too many', '05 00 00 FF 00 00', 3],
    ['a register with a byte too many', '06 00 00 00 01 00', 3],
    ['coils with another byte count', '0F 00 00 00 09 01 FF 01', 3],
    ['coils with a byte missing', '0F 00 00 00 09 02 FF', 3],
    ['no coils', '0F 00 00 00 00 00', 3],
    ['coils past the last', '0F FF FF 00 02 01 03', 2],
    ['registers with another byte count', '10 00 00 00 01 04 00 01', 3],
    ['registers with a byte missing', '10 00 00 00 01 02 00', 3],
    ['no registers', '10 00 00 00 00 00', 3],
    ['registers past the last', '10 FF FF 00 02 04 00 01 00 02', 2],
    ['a mask with a byte too many', '16 00 00 FF FF 00 00 00', 3],
    ['read and write with nothing to read', '17 00 00 00 00 00 00 00 01 02 00 01', 3],
    ['read and write with nothing to write', '17 00 00 00 01 00 00 00 00 00', 3],
    ['read and write with another byte count', '17 00 00 00 01 00 00 00 01 04 00 01', 3],
    ['read and write with a byte missing', '17 00 00 00 01 00 00 00 01 02 00', 3],
    ['read past the last while writing', '17 FF FF 00 02 00 00 00 01 02 00 01', 2],
    ['write past the last while reading', '17 00 00 00 01 FF FF 00 02 04 00 01 00 02', 2],
    ['another encapsulation', '2B 0D 01 00', 1],
    ['an identification category that is none', '2B 0E 05 00', 3],
    ['an identification with a byte too many', '2B 0E 01 00 00', 3],
    ['a function that is none', '07', 1],
  ])('%s', (_what, hex, exception) => expect(asked(hex)).toBe(exception))

  test.each<[string, object]>([
    ['03 FF FF 00 01', { code: 3, address: 65_535, count: 1 }],
    ['0F 00 13 00 0A 02 CD 01', { code: 15, address: 19 }],
    ['16 00 04 00 F2 00 25', { code: 22, address: 4, andMask: 0xf2, orMask: 0x25 }],
    ['2B 0E 04 07', { code: 43, category: 'one-object', object: 7 }],
    ['10 FF FE 00 02 04 00 01 00 02', { code: 16, address: 65_534, values: [1, 2] }],
    ['17 FF FF 00 01 FF FF 00 01 02 00 09', { code: 23, address: 65_535, writeAddress: 65_535, values: [9] }],
  ])('%s is let through', (hex, request) => expect(asked(hex)).toMatchObject(request))
})

describe('answers that are almost right', () => {
  const read: ModbusRequest = { code: 3, address: at(0), count: 2 }
  const bits: ModbusRequest = { code: 1, address: at(0), count: 3 }
  const why = (request: ModbusRequest, hex: string) => {
    const answer = decodeResponse(request, bytes(hex))
    return answer.ok
      ? answer.value
      : `${answer.refusal.reason}: found ${answer.refusal.found}, expected ${answer.refusal.expected}`
  }

  test.each<[string, ModbusRequest, string, unknown]>([
    ['an exception without its code', read, '83', 'wrong-length: found 1 bytes, expected 2 bytes'],
    ['an exception with more', read, '83 02 00', 'wrong-length: found 3 bytes, expected 2 bytes'],
    ['an exception of code 0', read, '83 00', 'wrong-echo: found 0, expected 1 to 255'],
    ['no byte count', read, '03', 'too-short: found 1 bytes, expected 6 bytes'],
    ['another byte count', read, '03 02 00 01', 'wrong-byte-count: found 2, expected 4'],
    ['a byte missing', read, '03 04 00 01 00', 'wrong-length: found 5 bytes, expected 6 bytes'],
    ['a padding bit set', bits, '01 01 0F', 'wrong-padding: found 0F, expected zeros'],
    ['bits as they were asked', bits, '01 01 05', { kind: 'bits', code: 1, bits: [true, false, true] }],
    [
      'eight bits, none of them padding',
      { code: 1, address: at(0), count: 8 },
      '01 01 FF',
      { kind: 'bits', code: 1, bits: Array.from({ length: 8 }, () => true) },
    ],
    [
      'a confirmation of another length',
      { code: 6, address: at(1), value: 3 },
      '06 00 01 00',
      'wrong-length: found 4 bytes, expected 5 bytes',
    ],
  ])('%s', (_what, request, hex, expected) => expect(why(request, hex)).toEqual(expected))

  test('longer than a PDU may be, whatever it says', () => {
    const long = new Uint8Array(limits.pduBytes + 1)
    long.set([3, 250])
    expect(decodeResponse({ code: 3, address: at(0), count: 125 }, long)).toMatchObject({
      refusal: { reason: 'too-long', found: '254 bytes', expected: 'at most 253' },
    })
    // The longest that can be answered is shorter than that.
    const longest = new Uint8Array(252)
    longest.set([3, 250])
    expect(decodeResponse({ code: 3, address: at(0), count: 125 }, longest).ok).toBe(true)
  })

  test('a server does not answer otherwise than it was asked', () => {
    expect(() => encodeResponse(bits, { words: [1] })).toThrow('Bits do not fit')
    expect(() => encodeResponse(bits, { bits: [true] })).toThrow('Bits do not fit')
    expect(() => encodeResponse(read, { bits: [true] })).toThrow('Words do not fit')
    expect(() => encodeResponse(read, { words: [1] })).toThrow('Words do not fit')
    expect(() => encodeResponse(basic, { written: true })).toThrow('needs objects')
    expect(() => encodeException(3, 0)).toThrow('says nothing')
    expect(Array.from(encodeResponse(read, { exception: 2 }))).toEqual([0x83, 2])
    expect(Array.from(encodeResponse(basic, { conformity: 1, objects: [] }))).toEqual([43, 14, 1, 1, 0, 0, 0])
    expect(Array.from(encodeResponse(basic, { conformity: 1, objects: [], moreFrom: 3 }))).toEqual([
      43, 14, 1, 1, 255, 3, 0,
    ])
  })
})

describe('numbers that are none', () => {
  test.each([-1, 0.5, 65_536, Number.NaN])('%s is no address', (value) =>
    expect(() => protocolAddress(value)).toThrow(RangeError),
  )
  test('the first and the last address, and their numbers', () => {
    expect([registerNumber(at(0)), registerNumber(at(65_535))]).toEqual([1, 65_536])
  })
  test.each([-1, 0.5, 248])('%s is no unit of a serial line', (value) =>
    expect(() => serialUnit(value)).toThrow(RangeError),
  )
  test.each([-1, 0.5, 256])('%s is no unit of TCP', (value) => expect(() => tcpUnit(value)).toThrow(RangeError))

  test.each<[string, 'serial' | 'tcp', unknown]>([
    ['0', 'tcp', 0],
    ['255', 'tcp', 255],
    [' 255 ', 'tcp', 255],
    ['0', 'serial', '0 is broadcast, 248 to 255 are reserved.'],
    ['255', 'serial', '0 is broadcast, 248 to 255 are reserved.'],
    ['250', 'tcp', '248 to 254 are reserved; 255 and 0 mean the device itself.'],
    ['247', 'serial', 247],
    ['one', 'serial', 'refused'],
  ])('unit %s over %s', (text, carrier, expected) => {
    const unit = parseUnitId(text, carrier)
    if (unit.ok) return expect(unit.value).toBe(expected)
    if (expected === 'refused') return expect(unit.refusal.found).toBe('one')
    return expect(`${unit.refusal.what} ${unit.refusal.expected}`).toContain(expected)
  })

  test('a bit is set and cleared by its mask alone (V1.1b3, 6.16)', () => {
    expect(maskWriteOfBit(at(4), 3, true)).toEqual({ code: 22, address: 4, andMask: 0xfff7, orMask: 0x0008 })
    expect(maskWriteOfBit(at(4), 3, false)).toEqual({ code: 22, address: 4, andMask: 0xfff7, orMask: 0 })
    expect(maskWriteOfBit(at(4), 15, true)).toMatchObject({ andMask: 0x7fff, orMask: 0x8000 })
    expect(maskWriteOfBit(at(4), 0, true)).toMatchObject({ andMask: 0xfffe, orMask: 0x0001 })
    for (const bit of [-1, 16, 1.5]) expect(() => maskWriteOfBit(at(4), bit, true)).toThrow(RangeError)
  })

  test('a function has its number and its name', () => expect(functionText(4)).toBe('04 read input registers'))
})

describe('frames at their limits', () => {
  test('a PDU has 1 to 253 bytes on every carrier', () => {
    for (const frame of [serialBody, (unit: number, pdu: Uint8Array) => encodeTcpFrame(1, unit, pdu)]) {
      expect(() => frame(1, new Uint8Array(0))).toThrow(RangeError)
      expect(() => frame(1, new Uint8Array(254))).toThrow(RangeError)
      expect(frame(1, new Uint8Array(1)).length).toBeGreaterThan(1)
      expect(frame(1, new Uint8Array(253)).length).toBeGreaterThan(253)
    }
  })

  test('RTU: 4 bytes are the least, 256 the most', () => {
    const least = encodeRtuFrame(17, Uint8Array.of(7))
    expect(decodeRtuFrame(least)).toEqual({ ok: true, value: { unit: 17, pdu: Uint8Array.of(7) } })
    expect(decodeRtuFrame(least.slice(0, 3))).toMatchObject({ refusal: { reason: 'too-short' } })
    expect(decodeRtuFrame(encodeRtuFrame(17, new Uint8Array(253))).ok).toBe(true)
    expect(decodeRtuFrame(new Uint8Array(257))).toMatchObject({ refusal: { reason: 'too-long' } })
  })

  test('RTU: the length of an answer is not known before the byte that tells it', () => {
    expect(rtuResponseLength(bytes('11'))).toBeUndefined()
    expect(rtuResponseLength(bytes('11 03'))).toBeUndefined()
    expect(rtuResponseLength(bytes('11 03 06'))).toBe(11)
    expect(rtuResponseLength(bytes('11 83'))).toBe(5)
    expect(rtuResponseLength(bytes('11 2B 0E'))).toBeUndefined()
  })

  test('ASCII: nothing before the colon, nothing after the line end, 255 bytes at most', () => {
    const frame = encodeAsciiFrame(17, Uint8Array.of(7))
    expect(decodeAsciiFrame(frame)).toEqual({ ok: true, value: { unit: 17, pdu: Uint8Array.of(7) } })
    for (const text of [`x${frame}`, `${frame}x`, frame.slice(1), ':11\r\n'])
      expect(decodeAsciiFrame(text)).toMatchObject({ refusal: { reason: 'wrong-characters' } })
    expect(decodeAsciiFrame(encodeAsciiFrame(17, new Uint8Array(253))).ok).toBe(true)
    expect(decodeAsciiFrame(`:${'00'.repeat(256)}\r\n`)).toMatchObject({ refusal: { reason: 'too-long' } })
    const long = decodeAsciiFrame('y'.repeat(100))
    expect(!long.ok && long.refusal.found.length).toBe(62)
  })

  test('TCP: the length of a frame is 2 to 254 bytes after the header’s own', () => {
    const header = (length: number) => readTcpHeader(Uint8Array.of(0, 1, 0, 0, length >>> 8, length & 255))
    expect(header(2)).toEqual({ ok: true, value: 8 })
    expect(header(254)).toEqual({ ok: true, value: 260 })
    for (const length of [0, 1, 255, 65_535])
      expect(header(length)).toMatchObject({ refusal: { reason: 'wrong-length', expected: '2 to 254' } })
    expect(decodeTcpFrame(bytes('00 01 00 00 00 02 11'))).toMatchObject({
      refusal: { reason: 'too-short', found: '7 bytes', expected: 'at least 8' },
    })
    expect(decodeTcpFrame(bytes('00 01 00 00 00 02 11 07'))).toMatchObject({ ok: true, value: { unit: 17 } })
    expect(decodeTcpFrame(bytes('00 01 00 00 00 02 11 07 00'))).toMatchObject({ refusal: { reason: 'wrong-length' } })
  })

  test('TCP: a stream that breaks is told with its first 32 bytes', () => {
    const framer = new TcpFramer()
    const good = encodeTcpFrame(1, 17, encodeRequest({ code: 3, address: at(0), count: 1 }))
    const [first, second] = framer.push(Uint8Array.of(...good, 0, 1, 0, 9, ...new Uint8Array(60)))
    expect(first).toEqual({ frame: good })
    expect(second).toMatchObject({ broken: { reason: 'wrong-protocol' } })
    expect(second && 'bytes' in second && second.bytes.split(' ')).toHaveLength(32)
    // Six bytes are enough to judge a header.
    expect(new TcpFramer().push(Uint8Array.of(0, 1, 0, 9, 0, 2))).toHaveLength(1)
  })
})

describe('references at the edges of their notation', () => {
  const first = (text: string) => {
    const read = parseReference(text)
    return read.ok ? read.value[0]?.address : read.refusal.code
  }
  test.each<[string, unknown]>([
    ['40001.15', 0],
    ['40001.16', 'refused'],
    ['x0x10', 'refused'],
    ['0x10x', 'refused'],
    ['10hh', 'refused'],
    ['FFFFFh', 'refused'],
    ['00FFh', 255],
    ['44x0001', 'refused'],
    ['4x0001', 0],
  ])('%s', (text, expected) => {
    const found = first(text)
    if (expected === 'refused') expect(typeof found).toBe('string')
    else expect(found).toBe(expected)
  })
})
