import type { ModbusRequest } from '../modbus'

/** Bytes of a question and of its answer, as they are on the line. */
export interface FrameSizes {
  readonly request: number
  readonly answer: number
}

/** Unit in front and checksum behind. @source Modbus over Serial Line V1.02, 2.5.1 */
const RTU_AROUND = 3
/** Colon, unit, checksum (LRC), carriage return, line feed; each byte is two digits. @source Modbus over Serial Line V1.02, 2.5.2 */
const ASCII_AROUND = 7

/** Bytes of the identification that is read where nothing better is known: header and three short texts. An assumption. */
const IDENTITY_BYTES = 40

/**
 * Bytes of the protocol data units of a request and of its good answer.
 * @source Modbus Application Protocol V1.1b3, clause 6
 */
function pduSizes(request: ModbusRequest): FrameSizes {
  switch (request.code) {
    case 1:
    case 2:
      return { request: 5, answer: 2 + Math.ceil(request.count / 8) }
    case 3:
    case 4:
      return { request: 5, answer: 2 + 2 * request.count }
    case 5:
    case 6:
      return { request: 5, answer: 5 }
    case 15:
      return { request: 6 + Math.ceil(request.values.length / 8), answer: 5 }
    case 16:
      return { request: 6 + 2 * request.values.length, answer: 5 }
    case 22:
      return { request: 7, answer: 7 }
    case 23:
      return { request: 10 + 2 * request.values.length, answer: 2 + 2 * request.count }
    case 43:
      return { request: 4, answer: IDENTITY_BYTES }
  }
}

/** @example rtuSizes({ code: 3, address: protocolAddress(0), count: 10 }) // 8 bytes asked, 25 answered */
export function rtuSizes(request: ModbusRequest): FrameSizes {
  const pdu = pduSizes(request)
  return { request: pdu.request + RTU_AROUND, answer: pdu.answer + RTU_AROUND }
}

/** The same in the variant that writes each byte as two digits. */
export function asciiSizes(request: ModbusRequest): FrameSizes {
  const pdu = pduSizes(request)
  return { request: 2 * pdu.request + ASCII_AROUND, answer: 2 * pdu.answer + ASCII_AROUND }
}
