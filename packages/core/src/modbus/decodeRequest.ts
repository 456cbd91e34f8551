import { protocolAddress } from './address'
import { unpackBits, wordAt, wordsFrom } from './bytes'
import { limits } from './limits'
import {
  identificationCodes,
  MEI_DEVICE_IDENTIFICATION,
  type IdentificationCategory,
  type ModbusRequest,
} from './request'

/** What a server makes of a request: the request, or the exception code to answer with. */
export type RequestReading =
  { readonly request: ModbusRequest } | { readonly functionCode: number; readonly exception: 1 | 2 | 3 }

/**
 * Reads a request as a server must: unknown function 1, a span past 65 535 is 2, a wrong count, value or length is 3.
 * @source Modbus Application Protocol V1.1b3, the state diagrams of clause 6
 */
export function decodeRequest(pdu: Uint8Array): RequestReading {
  const functionCode = pdu[0] ?? 0
  const wrong = (exception: 1 | 2 | 3): RequestReading => ({ functionCode, exception })
  const exact = (length: number) => pdu.length === length
  const within = (count: number, most: number) => count >= 1 && count <= most
  const fits = (start: number, count: number) => start + count - 1 <= limits.lastAddress
  const at = wordAt(pdu, 1)
  const second = wordAt(pdu, 3)
  switch (functionCode) {
    case 1:
    case 2:
    case 3:
    case 4: {
      if (!exact(5) || !within(second, functionCode <= 2 ? limits.readBits : limits.readRegisters)) return wrong(3)
      if (!fits(at, second)) return wrong(2)
      return { request: { code: functionCode, address: protocolAddress(at), count: second } as ModbusRequest }
    }
    case 5:
      if (!exact(5) || (second !== 0xff00 && second !== 0)) return wrong(3)
      return { request: { code: 5, address: protocolAddress(at), value: second === 0xff00 } }
    case 6:
      if (!exact(5)) return wrong(3)
      return { request: { code: 6, address: protocolAddress(at), value: second } }
    case 15: {
      const bytes = Math.ceil(second / 8)
      if (!within(second, limits.writeCoils) || pdu[5] !== bytes || !exact(6 + bytes)) return wrong(3)
      if (!fits(at, second)) return wrong(2)
      return { request: { code: 15, address: protocolAddress(at), values: unpackBits(pdu, 6, second) } }
    }
    case 16:
      if (!within(second, limits.writeRegisters) || pdu[5] !== 2 * second || !exact(6 + 2 * second)) return wrong(3)
      if (!fits(at, second)) return wrong(2)
      return { request: { code: 16, address: protocolAddress(at), values: wordsFrom(pdu, 6, second) } }
    case 22:
      if (!exact(7)) return wrong(3)
      return { request: { code: 22, address: protocolAddress(at), andMask: second, orMask: wordAt(pdu, 5) } }
    case 23: {
      const writeAt = wordAt(pdu, 5)
      const count = wordAt(pdu, 7)
      if (!within(second, limits.readWriteRead) || !within(count, limits.readWriteWrite)) return wrong(3)
      if (pdu[9] !== 2 * count || !exact(10 + 2 * count)) return wrong(3)
      if (!fits(at, second) || !fits(writeAt, count)) return wrong(2)
      return {
        request: {
          code: 23,
          address: protocolAddress(at),
          count: second,
          writeAddress: protocolAddress(writeAt),
          values: wordsFrom(pdu, 10, count),
        },
      }
    }
    case 43: {
      if (pdu[1] !== MEI_DEVICE_IDENTIFICATION) return wrong(1)
      const category = (Object.keys(identificationCodes) as IdentificationCategory[]).find(
        (name) => identificationCodes[name] === pdu[2],
      )
      if (!exact(4) || !category) return wrong(3)
      return { request: { code: 43, category, object: pdu[3] ?? 0 } }
    }
    default:
      return wrong(1)
  }
}
