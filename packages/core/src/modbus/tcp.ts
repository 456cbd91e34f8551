import { ok, type Result } from '../units'
import { byte, hexText, wordAt, wordBytes } from './bytes'
import { decodeResponse } from './decodeResponse'
import { encodeRequest } from './encodeRequest'
import { limits } from './limits'
import { reject, type Rejection } from './rejection'
import type { ModbusRequest } from './request'
import type { ModbusResponse } from './response'
import type { TcpUnit } from './unitId'

/** Bytes of the header before the PDU: transaction, protocol, length, unit. @source Messaging on TCP/IP V1.0b, 3.1.3 */
const HEADER = 7

/** A request on its way over TCP. */
export interface TcpRequest {
  readonly transaction: number
  readonly unit: TcpUnit
  readonly request: ModbusRequest
}

/** Header and PDU of a frame that has the right form; whether it answers a request is another question. */
export interface TcpFrame {
  readonly transaction: number
  readonly unit: number
  readonly pdu: Uint8Array
}

/** @throws RangeError for a transaction number above 65 535, a unit above 255 or a PDU of no allowed length */
export function encodeTcpFrame(transaction: number, unit: number, pdu: Uint8Array): Uint8Array {
  if (pdu.length < 1 || pdu.length > limits.pduBytes)
    throw new RangeError(`A PDU has 1 to ${limits.pduBytes} bytes, not ${pdu.length}`)
  return Uint8Array.of(...wordBytes(transaction), 0, 0, ...wordBytes(pdu.length + 1), byte(unit), ...pdu)
}

export function encodeTcpRequest({ transaction, unit, request }: TcpRequest): Uint8Array {
  return encodeTcpFrame(transaction, unit, encodeRequest(request))
}

/** Reads one whole frame: protocol 0, the length as it says. */
export function decodeTcpFrame(bytes: Uint8Array): Result<TcpFrame, Rejection> {
  if (bytes.length < HEADER + 1) {
    return reject('too-short', 'The frame ends in its header.', `${bytes.length} bytes`, `at least ${HEADER + 1}`)
  }
  const header = readTcpHeader(bytes)
  if (!header.ok) return header
  if (bytes.length !== header.value) {
    return reject(
      'wrong-length',
      'The frame is not as long as its header says.',
      `${bytes.length} bytes`,
      `${header.value} bytes`,
    )
  }
  return ok({ transaction: wordAt(bytes, 0), unit: bytes[6] ?? 0, pdu: bytes.slice(HEADER) })
}

/** The length of the whole frame that begins here, judged by its first six bytes. */
export function readTcpHeader(bytes: Uint8Array): Result<number, Rejection> {
  if (wordAt(bytes, 2) !== 0) {
    return reject('wrong-protocol', 'The frame is not Modbus: its protocol number is not 0.', wordAt(bytes, 2), 0)
  }
  const length = wordAt(bytes, 4)
  if (length < 2 || length > limits.pduBytes + 1) {
    return reject('wrong-length', 'The length in the header cannot be.', length, `2 to ${limits.pduBytes + 1}`)
  }
  return ok(length + 6)
}

/**
 * Reads a frame strictly as the answer to one request: transaction, unit and PDU must all fit.
 * @returns the answer (an exception is one), or why these bytes are not it
 */
export function decodeTcpResponse(sent: TcpRequest, bytes: Uint8Array): Result<ModbusResponse, Rejection> {
  const frame = decodeTcpFrame(bytes)
  if (!frame.ok) return frame
  const { transaction, unit, pdu } = frame.value
  if (transaction !== sent.transaction) {
    return reject(
      'wrong-transaction',
      'The answer belongs to another request, perhaps an earlier one.',
      transaction,
      sent.transaction,
    )
  }
  if (unit !== sent.unit) return reject('wrong-unit', 'Another unit answered.', unit, sent.unit)
  return decodeResponse(sent.request, pdu)
}

/** What came out of a stream of bytes. After `broken` nothing of the stream can be trusted any more. */
export type TcpChunk = { readonly frame: Uint8Array } | { readonly broken: Rejection; readonly bytes: string }

/** Cuts a TCP stream into frames, however it was split on the way. Keeps at most one frame of unread bytes. */
export class TcpFramer {
  #rest = new Uint8Array(0)

  /** Bytes of a frame that is not whole yet. */
  get pendingCount(): number {
    return this.#rest.length
  }

  push(bytes: Uint8Array): readonly TcpChunk[] {
    const chunks: TcpChunk[] = []
    const all = new Uint8Array(this.#rest.length + bytes.length)
    all.set(this.#rest)
    all.set(bytes, this.#rest.length)
    let start = 0
    while (all.length - start >= 6) {
      const length = readTcpHeader(all.subarray(start))
      if (!length.ok) {
        chunks.push({ broken: length.refusal, bytes: hexText(all.subarray(start, start + 32)) })
        this.#rest = new Uint8Array(0)
        return chunks
      }
      if (all.length - start < length.value) break
      chunks.push({ frame: all.slice(start, start + length.value) })
      start += length.value
    }
    this.#rest = all.slice(start)
    return chunks
  }
}
