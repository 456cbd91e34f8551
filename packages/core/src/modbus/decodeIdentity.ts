import { ok, type Result } from '../units'
import { reject, type Rejection } from './rejection'
import { identificationCodes, MEI_DEVICE_IDENTIFICATION, type ModbusRequest } from './request'
import type { IdentificationObject, ModbusResponse } from './response'

const HEADER = 7
/** Conformity levels: 1 to 3, with the top bit when single objects may be asked for. */
const CONFORMITY = [0x01, 0x02, 0x03, 0x81, 0x82, 0x83]

/**
 * Reads the answer to FC 43/14. Every length is checked against the bytes that are there; object ids must rise from
 * the one asked for; a single object must be the one asked for.
 * @source Modbus Application Protocol V1.1b3, 6.21
 */
export function decodeIdentity(
  request: Extract<ModbusRequest, { code: 43 }>,
  pdu: Uint8Array,
): Result<ModbusResponse, Rejection> {
  if (pdu.length < HEADER) {
    return reject('too-short', 'The identification ends in its header.', `${pdu.length} bytes`, `at least ${HEADER}`)
  }
  const [, mei, category, conformity = 0, more, next = 0, count = 0] = pdu
  if (mei !== MEI_DEVICE_IDENTIFICATION)
    return reject('wrong-echo', 'Another kind of encapsulated answer.', mei ?? 0, MEI_DEVICE_IDENTIFICATION)
  if (category !== identificationCodes[request.category]) {
    return reject(
      'wrong-echo',
      'Another identification category.',
      category ?? 0,
      identificationCodes[request.category],
    )
  }
  if (!CONFORMITY.includes(conformity))
    return reject('wrong-echo', 'An unknown conformity level.', conformity, '1 to 3, or 0x81 to 0x83')
  if (more !== 0 && more !== 0xff)
    return reject('wrong-echo', 'The "more follows" byte is neither 00 nor FF.', more ?? 0, '0 or 255')
  if (more === 0 && next !== 0) return reject('wrong-object', 'Nothing follows, yet a next object is named.', next, 0)

  const objects: IdentificationObject[] = []
  let offset = HEADER
  for (let k = 0; k < count; k += 1) {
    const id = pdu[offset]
    const length = pdu[offset + 1]
    if (id === undefined || length === undefined || offset + 2 + length > pdu.length) {
      return reject(
        'too-short',
        `Object ${k + 1} of ${count} ends too early.`,
        `${pdu.length} bytes`,
        'the length its objects name',
      )
    }
    const before = objects.at(-1)
    if (before && id <= before.id) return reject('wrong-object', 'Object ids do not rise.', id, `above ${before.id}`)
    objects.push({ id, text: String.fromCharCode(...pdu.slice(offset + 2, offset + 2 + length)) })
    offset += 2 + length
  }
  if (offset !== pdu.length)
    return reject('wrong-length', 'Bytes are left after the last object.', `${pdu.length} bytes`, `${offset} bytes`)
  if (request.category === 'one-object' && (objects.length !== 1 || objects[0]?.id !== request.object)) {
    return reject('wrong-object', 'Not the object that was asked for.', objects[0]?.id ?? 'none', request.object)
  }
  if (more === 0xff && next <= (objects.at(-1)?.id ?? -1)) {
    return reject(
      'wrong-object',
      'The next object is not above the last one given.',
      next,
      `above ${objects.at(-1)?.id ?? 0}`,
    )
  }
  return ok({ kind: 'identity', code: 43, conformity, moreFrom: more === 0xff ? next : undefined, objects })
}
