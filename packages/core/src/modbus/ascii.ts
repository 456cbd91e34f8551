import { ok, type Result } from '../units'
import { hexText } from './bytes'
import { limits } from './limits'
import { lrc } from './lrc'
import { reject, type Rejection } from './rejection'
import type { ModbusResponse } from './response'
import { answerFrom, serialBody, serialRequestPdu, type SerialFrame, type SerialRequest } from './rtu'

/** A colon, pairs of hex digits, the checksum, CR LF. @source Modbus over Serial Line V1.02, 2.5.2 */
export function encodeAsciiFrame(unit: number, pdu: Uint8Array): string {
  const body = serialBody(unit, pdu)
  return `:${hexText(Uint8Array.of(...body, lrc(body))).replaceAll(' ', '')}\r\n`
}

export function encodeAsciiRequest(sent: SerialRequest): string {
  return encodeAsciiFrame(sent.unit, serialRequestPdu(sent))
}

export function decodeAsciiFrame(text: string): Result<SerialFrame, Rejection> {
  const match = /^:((?:[0-9A-F]{2}){3,})\r\n$/.exec(text)
  if (!match) {
    return reject(
      'wrong-characters',
      'Not an ASCII frame: a colon, pairs of capital hex digits, CR LF.',
      JSON.stringify(text.slice(0, 60)),
      ':…CR LF',
    )
  }
  const bytes = Uint8Array.from((match[1] ?? '').match(/../g) ?? [], (pair) => parseInt(pair, 16))
  if (bytes.length > limits.asciiBytes) {
    return reject(
      'too-long',
      'The frame is longer than ASCII allows.',
      `${bytes.length} bytes`,
      `at most ${limits.asciiBytes}`,
    )
  }
  const body = bytes.slice(0, -1)
  const found = bytes.at(-1) ?? 0
  if (found !== lrc(body))
    return reject('wrong-checksum', 'The checksum does not fit the characters.', found, lrc(body))
  return ok({ unit: body[0] ?? 0, pdu: body.slice(1) })
}

/** Reads an ASCII frame strictly as the answer to one request. */
export function decodeAsciiResponse(sent: SerialRequest, text: string): Result<ModbusResponse, Rejection> {
  return answerFrom(sent, decodeAsciiFrame(text))
}
