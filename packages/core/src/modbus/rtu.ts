import { ok, type Result } from '../units'
import { byte, hexText } from './bytes'
import { crc16 } from './crc'
import { decodeResponse } from './decodeResponse'
import { encodeRequest } from './encodeRequest'
import { limits } from './limits'
import { reject, type Rejection } from './rejection'
import type { ModbusRequest } from './request'
import type { ModbusResponse } from './response'
import { isBroadcast, type SerialUnit } from './unitId'

/** A request on its way over a serial line. Unit 0 is broadcast: nobody answers. */
export interface SerialRequest {
  readonly unit: SerialUnit
  readonly request: ModbusRequest
}

/** Unit and PDU of a serial frame whose checksum is right. */
export interface SerialFrame {
  readonly unit: number
  readonly pdu: Uint8Array
}

/** What every serial frame begins with. @throws RangeError for a unit that is no byte, or a PDU of no allowed length */
export function serialBody(unit: number, pdu: Uint8Array): Uint8Array {
  if (pdu.length < 1 || pdu.length > limits.pduBytes)
    throw new RangeError(`A PDU has 1 to ${limits.pduBytes} bytes, not ${pdu.length}`)
  return Uint8Array.of(byte(unit), ...pdu)
}

/** Function codes that ask for something back: to nobody in particular they make no sense. */
const READING = [1, 2, 3, 4, 23, 43]

/**
 * The PDU of a request on a serial line.
 * @throws RangeError when something is read from unit 0: all would have to answer at once, so none does
 * @source Modbus over Serial Line V1.02, 2.1: broadcast requests are necessarily writing commands
 */
export function serialRequestPdu({ unit, request }: SerialRequest): Uint8Array {
  if (isBroadcast(unit) && READING.includes(request.code))
    throw new RangeError(`Function ${request.code} reads; unit 0 is broadcast and nobody answers it`)
  return encodeRequest(request)
}

/** Whether an answer is to be waited for: not after a broadcast. @source Modbus over Serial Line V1.02, 2.1 */
export const awaitsAnswer = ({ unit }: Pick<SerialRequest, 'unit'>): boolean => !isBroadcast(unit)

/**
 * Unit, PDU, checksum low byte first.
 * @throws RangeError for a unit that is no byte, or a PDU of no allowed length
 * @source Modbus over Serial Line V1.02, 2.5.1
 */
export function encodeRtuFrame(unit: number, pdu: Uint8Array): Uint8Array {
  const body = serialBody(unit, pdu)
  const crc = crc16(body)
  return Uint8Array.of(...body, crc & 255, crc >>> 8)
}

export function encodeRtuRequest(sent: SerialRequest): Uint8Array {
  return encodeRtuFrame(sent.unit, serialRequestPdu(sent))
}

export function decodeRtuFrame(bytes: Uint8Array): Result<SerialFrame, Rejection> {
  if (bytes.length < 4) return reject('too-short', 'The frame is too short.', `${bytes.length} bytes`, 'at least 4')
  if (bytes.length > limits.rtuBytes) {
    return reject(
      'too-long',
      'The frame is longer than RTU allows.',
      `${bytes.length} bytes`,
      `at most ${limits.rtuBytes}`,
    )
  }
  const body = bytes.slice(0, -2)
  const crc = crc16(body)
  const expected = Uint8Array.of(crc & 255, crc >>> 8)
  const found = bytes.slice(-2)
  if (found[0] !== expected[0] || found[1] !== expected[1]) {
    return reject('wrong-checksum', 'The checksum does not fit the bytes.', hexText(found), hexText(expected))
  }
  return ok({ unit: body[0] ?? 0, pdu: body.slice(1) })
}

/** Reads an RTU frame strictly as the answer to one request. */
export function decodeRtuResponse(sent: SerialRequest, bytes: Uint8Array): Result<ModbusResponse, Rejection> {
  return answerFrom(sent, decodeRtuFrame(bytes))
}

/** What RTU and ASCII share once the frame is read: the unit must be the one asked. */
export function answerFrom(
  sent: SerialRequest,
  frame: Result<SerialFrame, Rejection>,
): Result<ModbusResponse, Rejection> {
  if (!frame.ok) return frame
  if (!awaitsAnswer(sent))
    return reject(
      'broadcast',
      'A broadcast has no answer; this belongs to something else.',
      frame.value.unit,
      'nothing',
    )
  if (frame.value.unit !== sent.unit) return reject('wrong-unit', 'Another unit answered.', frame.value.unit, sent.unit)
  return decodeResponse(sent.request, frame.value.pdu)
}

/**
 * How long the answer to a request will be, as far as the bytes that are there tell; `undefined` while more are
 * needed to know. Needed on a serial line, where silence is the only other end mark.
 */
export function rtuResponseLength(bytes: Uint8Array): number | undefined {
  const code = bytes[1]
  if (code === undefined) return undefined
  if (code & 0x80) return 5
  switch (code) {
    case 1:
    case 2:
    case 3:
    case 4:
    case 23:
      return bytes[2] === undefined ? undefined : 5 + bytes[2]
    case 5:
    case 6:
    case 15:
    case 16:
      return 8
    case 22:
      return 10
    default:
      return undefined
  }
}
