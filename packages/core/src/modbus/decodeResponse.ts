import { ok, type Result } from '../units'
import type { ProtocolAddress } from './address'
import { hexText, unpackBits, wordsFrom } from './bytes'
import { decodeIdentity } from './decodeIdentity'
import { encodeRequest } from './encodeRequest'
import { limits } from './limits'
import { reject, type Rejection } from './rejection'
import type { ModbusRequest } from './request'
import type { ModbusResponse } from './response'

/**
 * Reads a protocol data unit strictly as the answer to one request. Anything that is not exactly such an answer is a
 * typed rejection: another function, a byte count that does not match, an echo that differs, padding bits set.
 *
 * @source Modbus Application Protocol V1.1b3, clauses 6 and 7
 */
export function decodeResponse(request: ModbusRequest, pdu: Uint8Array): Result<ModbusResponse, Rejection> {
  const first = pdu[0]
  if (first === undefined) return reject('empty', 'The answer is empty.', 'no bytes', 'at least 2 bytes')
  if (pdu.length > limits.pduBytes) {
    return reject(
      'too-long',
      'The answer is longer than a PDU may be.',
      `${pdu.length} bytes`,
      `at most ${limits.pduBytes}`,
    )
  }
  if (first === (request.code | 0x80)) return decodeException(request.code, pdu)
  if (first !== request.code) {
    return reject('wrong-function', 'The answer is for another function code.', first, request.code)
  }
  switch (request.code) {
    case 1:
    case 2:
      return decodeBits(request.code, request.count, pdu)
    case 3:
    case 4:
    case 23:
      return decodeWords(request.code, request.count, pdu)
    case 5:
    case 6:
    case 22:
      return decodeEcho(request.code, request.address, 1, encodeRequest(request), pdu)
    case 15:
    case 16:
      return decodeEcho(request.code, request.address, request.values.length, encodeRequest(request).slice(0, 5), pdu)
    case 43:
      return decodeIdentity(request, pdu)
  }
}

function decodeException(functionCode: number, pdu: Uint8Array): Result<ModbusResponse, Rejection> {
  const exception = pdu[1]
  if (pdu.length !== 2 || exception === undefined) {
    return reject('wrong-length', 'An exception answer has two bytes.', `${pdu.length} bytes`, '2 bytes')
  }
  if (exception === 0) return reject('wrong-echo', 'An exception answer with code 0 says nothing.', 0, '1 to 255')
  return ok({ kind: 'exception', functionCode, exception })
}

function payload(pdu: Uint8Array, bytes: number): Result<true, Rejection> {
  if (pdu.length < 2)
    return reject('too-short', 'The answer ends before its byte count.', `${pdu.length} bytes`, `${bytes + 2} bytes`)
  if (pdu[1] !== bytes) {
    return reject('wrong-byte-count', 'The byte count does not fit what was asked for.', pdu[1] ?? 0, bytes)
  }
  if (pdu.length !== bytes + 2) {
    return reject(
      'wrong-length',
      'The answer is not as long as its byte count says.',
      `${pdu.length} bytes`,
      `${bytes + 2} bytes`,
    )
  }
  return ok(true)
}

function decodeBits(code: 1 | 2, count: number, pdu: Uint8Array): Result<ModbusResponse, Rejection> {
  const bytes = Math.ceil(count / 8)
  const whole = payload(pdu, bytes)
  if (!whole.ok) return whole
  const spare = 8 * bytes - count
  if ((pdu[1 + bytes] ?? 0) >>> (8 - spare) !== 0 && spare > 0) {
    return reject(
      'wrong-padding',
      'Bits after the last one asked for are set; they must be zero.',
      hexText(pdu.slice(-1)),
      'zeros',
    )
  }
  return ok({ kind: 'bits', code, bits: unpackBits(pdu, 2, count) })
}

function decodeWords(code: 3 | 4 | 23, count: number, pdu: Uint8Array): Result<ModbusResponse, Rejection> {
  const whole = payload(pdu, 2 * count)
  return whole.ok ? ok({ kind: 'words', code, words: wordsFrom(pdu, 2, count) }) : whole
}

function decodeEcho(
  code: 5 | 6 | 15 | 16 | 22,
  address: ProtocolAddress,
  count: number,
  expected: Uint8Array,
  pdu: Uint8Array,
): Result<ModbusResponse, Rejection> {
  if (pdu.length !== expected.length) {
    return reject(
      'wrong-length',
      'The confirmation has another length.',
      `${pdu.length} bytes`,
      `${expected.length} bytes`,
    )
  }
  if (!expected.every((byte, k) => pdu[k] === byte)) {
    return reject('wrong-echo', 'The confirmation does not repeat what was written.', hexText(pdu), hexText(expected))
  }
  return ok({ kind: 'written', code, address, count })
}
