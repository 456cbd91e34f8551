import fc from 'fast-check'
import { protocolAddress } from './address'
import { decodeAsciiFrame, decodeAsciiResponse, encodeAsciiFrame, encodeAsciiRequest } from './ascii'
import { hexText } from './bytes'
import { crc16 } from './crc'
import { encodeException, encodeResponse } from './encodeResponse'
import { anyRequest, answerTo, bytesOf } from './fixtures'
import { lrc } from './lrc'
import {
  awaitsAnswer,
  decodeRtuFrame,
  decodeRtuResponse,
  encodeRtuFrame,
  encodeRtuRequest,
  rtuResponseLength,
} from './rtu'
import { decodeTcpFrame, decodeTcpResponse, encodeTcpFrame, encodeTcpRequest, TcpFramer } from './tcp'
import { serialUnit, tcpUnit } from './unitId'

const ask = { code: 3 as const, address: protocolAddress(0), count: 10 }

describe('checksums', () => {
  test('CRC-16/MODBUS of "123456789" is 4B37 (catalogue of parametrised CRC algorithms)', () => {
    expect(crc16(new TextEncoder().encode('123456789'))).toBe(0x4b37)
  })
  test('the request 01 03 00 00 00 0A ends C5 CD (known pair, common practice)', () => {
    expect(hexText(encodeRtuRequest({ unit: serialUnit(1), request: ask }))).toBe('01 03 00 00 00 0A C5 CD')
  })
  test('the sum of all bytes and the LRC is zero in 8 bits (Modbus over Serial Line V1.02, 6.2.1)', () => {
    fc.assert(
      fc.property(fc.uint8Array(), (bytes) => {
        expect((bytes.reduce((sum, byte) => sum + byte, 0) + lrc(bytes)) & 255).toBe(0)
      }),
    )
  })
})

describe('RTU', () => {
  test('a single wrong bit anywhere is seen', () => {
    const frame = encodeRtuFrame(1, encodeResponse(ask, answerTo(ask, 7)))
    for (let bit = 0; bit < frame.length * 8; bit += 1) {
      const wrong = frame.slice()
      wrong[bit >>> 3] = (wrong[bit >>> 3] ?? 0) ^ (1 << (bit & 7))
      expect(decodeRtuFrame(wrong)).toMatchObject({ ok: false, refusal: { reason: 'wrong-checksum' } })
    }
  })
  test('another unit’s answer is refused, though its checksum is right', () => {
    const frame = encodeRtuFrame(2, encodeResponse(ask, answerTo(ask, 7)))
    expect(decodeRtuResponse({ unit: serialUnit(1), request: ask }, frame)).toMatchObject({
      refusal: { reason: 'wrong-unit' },
    })
  })
  test('too short, too long', () => {
    expect(decodeRtuFrame(bytesOf('01 83 02'))).toMatchObject({ refusal: { reason: 'too-short' } })
    expect(decodeRtuFrame(new Uint8Array(257))).toMatchObject({ refusal: { reason: 'too-long' } })
  })
  test('the length of an answer is known from its first bytes', () => {
    fc.assert(
      fc.property(
        anyRequest.filter((request) => request.code !== 43),
        fc.nat(0xffff),
        (request, seed) => {
          const frame = encodeRtuFrame(1, encodeResponse(request, answerTo(request, seed)))
          expect(rtuResponseLength(frame.slice(0, 3))).toBe(frame.length)
        },
      ),
    )
    expect(rtuResponseLength(bytesOf('01'))).toBeUndefined()
    expect(rtuResponseLength(bytesOf('01 83 02'))).toBe(5)
  })
})

// Modbus over Serial Line V1.02, 2.1: in broadcast mode no response is returned; broadcasts are writing commands.
describe('broadcast on a serial line', () => {
  const all = serialUnit(0)
  const write = { code: 6 as const, address: protocolAddress(1), value: 3 }
  test('what reads is not encoded', () => {
    for (const request of [ask, { code: 1 as const, address: protocolAddress(0), count: 1 }]) {
      expect(() => encodeRtuRequest({ unit: all, request })).toThrow(/broadcast/)
      expect(() => encodeAsciiRequest({ unit: all, request })).toThrow(/broadcast/)
    }
    const both = {
      code: 23 as const,
      address: protocolAddress(0),
      count: 1,
      writeAddress: protocolAddress(0),
      values: [1],
    }
    expect(() => encodeRtuRequest({ unit: all, request: both })).toThrow(/broadcast/)
    const identity = { code: 43 as const, category: 'basic' as const, object: 0 }
    expect(() => encodeRtuRequest({ unit: all, request: identity })).toThrow(/broadcast/)
  })
  test('a write goes out, no answer is waited for and none is taken', () => {
    const frame = encodeRtuRequest({ unit: all, request: write })
    expect(hexText(frame.slice(0, 6))).toBe('00 06 00 01 00 03')
    expect(awaitsAnswer({ unit: all })).toBe(false)
    expect(awaitsAnswer({ unit: serialUnit(1) })).toBe(true)
    // The echo of the very frame would fit a unit of its own.
    expect(decodeRtuResponse({ unit: all, request: write }, frame)).toMatchObject({ refusal: { reason: 'broadcast' } })
  })
})

describe('what does not fit is refused, never wrapped', () => {
  const pdu = bytesOf('03 0000 0001')
  test.each<[string, () => unknown]>([
    ['unit 256 over TCP', () => encodeTcpFrame(1, 256, pdu)],
    ['unit 256 on a line', () => encodeRtuFrame(256, pdu)],
    ['unit -1 on a line', () => encodeAsciiFrame(-1, pdu)],
    ['transaction 70 000', () => encodeTcpFrame(70_000, 1, pdu)],
    ['an empty PDU', () => encodeTcpFrame(1, 1, new Uint8Array(0))],
    ['a PDU of 254 bytes', () => encodeTcpFrame(1, 1, new Uint8Array(254))],
    ['a PDU of 254 bytes on a line', () => encodeRtuFrame(1, new Uint8Array(254))],
    ['unit 248 of a line', () => serialUnit(248)],
    ['unit 256 of a TCP request', () => tcpUnit(256)],
    ['half a unit', () => tcpUnit(1.5)],
    ['word 70 000 in an answer', () => encodeResponse({ ...ask, count: 1 }, { words: [70_000] })],
    ['word -1 in an answer', () => encodeResponse({ ...ask, count: 1 }, { words: [-1] })],
    ['exception 256', () => encodeException(3, 256)],
    ['exception 0', () => encodeException(3, 0)],
    ['an exception to function 256', () => encodeException(256, 2)],
    ['an object of 300 characters', () => identityOf('x'.repeat(300))],
    ['an object of 250 characters, past the PDU', () => identityOf('x'.repeat(250))],
    ['a character that is no byte', () => identityOf('Ω')],
  ])('%s', (_what, work) => expect(work).toThrow(RangeError))
  const identityOf = (text: string) =>
    encodeResponse({ code: 43, category: 'basic', object: 0 }, { conformity: 1, objects: [{ id: 0, text }] })
  test('the largest that fit do', () => {
    // 7 bytes of header and 2 of the object leave 244 of 253.
    expect(identityOf('x'.repeat(244))).toHaveLength(253)
    expect(encodeTcpFrame(65_535, 255, new Uint8Array(253).fill(1))).toHaveLength(260)
    expect(encodeRtuFrame(247, new Uint8Array(253).fill(1))).toHaveLength(256)
  })
})

describe('ASCII', () => {
  test('the frame of Modbus over Serial Line V1.02, 2.5.2: colon, hex digits, LRC, CR LF', () => {
    expect(encodeAsciiFrame(0x11, bytesOf('03 006B 0003'))).toBe(':1103006B00037E\r\n')
  })
  test.each([
    ['small letters', ':1103006b00037E\r\n', 'wrong-characters'],
    ['no line end', ':1103006B00037E', 'wrong-characters'],
    ['a wrong LRC', ':1103006B00037F\r\n', 'wrong-checksum'],
    ['an odd digit', ':1103006B00037\r\n', 'wrong-characters'],
  ])('%s is refused', (_what, text, reason) =>
    expect(decodeAsciiFrame(text)).toMatchObject({ ok: false, refusal: { reason } }),
  )
  test('an answer is read', () => {
    const text = encodeAsciiFrame(1, encodeResponse(ask, answerTo(ask, 3)))
    expect(decodeAsciiResponse({ unit: serialUnit(1), request: ask }, text)).toMatchObject({
      ok: true,
      value: answerTo(ask, 3),
    })
  })
})

describe('TCP', () => {
  const sent = {
    transaction: 0x1501,
    unit: tcpUnit(255),
    request: { code: 4 as const, address: protocolAddress(4), count: 1 },
  }

  test('the example of Messaging on TCP/IP V1.0b, 4.4.2: header then PDU', () => {
    expect(hexText(encodeTcpRequest(sent))).toBe('15 01 00 00 00 06 FF 04 00 04 00 01')
    expect(decodeTcpResponse(sent, bytesOf('15 01 00 00 00 05 FF 04 02 00 05'))).toMatchObject({
      ok: true,
      value: { words: [5] },
    })
  })

  test.each([
    ['an earlier transaction', '15 00 00 00 00 05 FF 04 02 00 05', 'wrong-transaction'],
    ['another protocol', '15 01 00 01 00 05 FF 04 02 00 05', 'wrong-protocol'],
    ['another unit', '15 01 00 00 00 05 01 04 02 00 05', 'wrong-unit'],
    ['a length that lies', '15 01 00 00 00 06 FF 04 02 00 05', 'wrong-length'],
    ['a header alone', '15 01 00 00 00 05', 'too-short'],
    ['a length that cannot be', '15 01 00 00 FF FF FF 04 02 00 05', 'wrong-length'],
  ])('%s is refused', (_what, hex, reason) => {
    expect(decodeTcpResponse(sent, bytesOf(hex))).toMatchObject({ ok: false, refusal: { reason } })
  })

  test('a stream is cut into its frames, however it was split on the way', () => {
    const frame = fc.tuple(fc.nat(0xffff), fc.nat(255), fc.uint8Array({ minLength: 1, maxLength: 253 }))
    fc.assert(
      fc.property(
        fc.array(frame, { maxLength: 6 }),
        fc.array(fc.integer({ min: 1, max: 90 }), { minLength: 1 }),
        (frames, cuts) => {
          const whole = frames.map(([transaction, unit, pdu]) => encodeTcpFrame(transaction, unit, pdu))
          const stream = whole.flatMap((bytes) => [...bytes])
          const framer = new TcpFramer()
          const found: string[] = []
          let place = 0
          for (let k = 0; place < stream.length; k += 1) {
            const length = cuts[k % cuts.length] ?? 1
            for (const chunk of framer.push(Uint8Array.from(stream.slice(place, place + length)))) {
              found.push('frame' in chunk ? hexText(chunk.frame) : 'broken')
            }
            place += length
          }
          expect(found).toEqual(whole.map(hexText))
        },
      ),
    )
  })

  test('a stream that is not Modbus is given up at once', () => {
    const [chunk] = new TcpFramer().push(new TextEncoder().encode('HTTP/1.1 400 Bad Request\r\n'))
    expect(chunk).toMatchObject({ broken: { reason: 'wrong-protocol' } })
  })

  test('frames of every request survive the way there and back', () => {
    fc.assert(
      fc.property(anyRequest, fc.nat(0xffff), fc.nat(255), (request, transaction, unit) => {
        const bytes = encodeTcpRequest({ transaction, unit: tcpUnit(unit), request })
        expect(decodeTcpFrame(bytes)).toMatchObject({ ok: true, value: { transaction, unit } })
      }),
    )
  })
})
