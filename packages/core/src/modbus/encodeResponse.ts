import { byte, packBits, wordBytes } from './bytes'
import { limits } from './limits'
import { encodeRequest } from './encodeRequest'
import { identificationCodes, MEI_DEVICE_IDENTIFICATION, type ModbusRequest } from './request'
import type { IdentificationObject } from './response'

/** What a server has found for a request. */
export type Answer =
  | { readonly bits: readonly boolean[] }
  | { readonly words: readonly number[] }
  | { readonly written: true }
  | { readonly conformity: number; readonly objects: readonly IdentificationObject[]; readonly moreFrom?: number }
  | { readonly exception: number }

/**
 * The protocol data unit that answers a request.
 * @throws RangeError when the answer does not fit the request: a mistake of the server's code
 * @source Modbus Application Protocol V1.1b3, clause 6 and 7
 */
export function encodeResponse(request: ModbusRequest, answer: Answer): Uint8Array {
  const pdu = answerPdu(request, answer)
  if (pdu.length > limits.pduBytes) throw new RangeError(`An answer of ${pdu.length} bytes does not fit a PDU`)
  return pdu
}

function answerPdu(request: ModbusRequest, answer: Answer): Uint8Array {
  if ('exception' in answer) return encodeException(request.code, answer.exception)
  switch (request.code) {
    case 1:
    case 2: {
      if (!('bits' in answer) || answer.bits.length !== request.count)
        throw new RangeError('Bits do not fit the request')
      const packed = packBits(answer.bits)
      return Uint8Array.of(request.code, packed.length, ...packed)
    }
    case 3:
    case 4:
    case 23:
      if (!('words' in answer) || answer.words.length !== request.count)
        throw new RangeError('Words do not fit the request')
      return Uint8Array.of(request.code, 2 * answer.words.length, ...answer.words.flatMap(wordBytes))
    case 5:
    case 6:
    case 22:
      return encodeRequest(request)
    case 15:
    case 16:
      return Uint8Array.of(request.code, ...wordBytes(request.address), ...wordBytes(request.values.length))
    case 43: {
      if (!('objects' in answer)) throw new RangeError('An identification needs objects')
      return Uint8Array.of(
        43,
        MEI_DEVICE_IDENTIFICATION,
        identificationCodes[request.category],
        byte(answer.conformity),
        answer.moreFrom === undefined ? 0 : 0xff,
        byte(answer.moreFrom ?? 0),
        byte(answer.objects.length),
        ...answer.objects.flatMap(({ id, text }) => [byte(id), byte(text.length), ...latin1(text)]),
      )
    }
  }
}

/** One byte a character. @throws RangeError for a character that needs more */
const latin1 = (text: string): readonly number[] =>
  Array.from({ length: text.length }, (_, k) => byte(text.charCodeAt(k)))

/**
 * An exception answer: function code with the top bit set, then the code. @source V1.1b3, clause 7
 * @throws RangeError for a function code that is no byte, or an exception code that is no byte or 0
 */
export function encodeException(functionCode: number, exception: number): Uint8Array {
  if (byte(exception) === 0) throw new RangeError('Exception code 0 says nothing')
  return Uint8Array.of(byte(functionCode) | 0x80, exception)
}
