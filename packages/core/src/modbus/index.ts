export { protocolAddress, registerNumber, type ProtocolAddress, type RegisterNumber } from './address'
export { decodeAsciiFrame, decodeAsciiResponse, encodeAsciiFrame, encodeAsciiRequest } from './ascii'
export { hexText, wordText } from './bytes'
export { crc16 } from './crc'
export { decodeRequest, type RequestReading } from './decodeRequest'
export { decodeResponse } from './decodeResponse'
export { encodeRequest } from './encodeRequest'
export { encodeException, encodeResponse, type Answer } from './encodeResponse'
export { exceptionMeaning, type ExceptionMeaning } from './exceptions'
export { functionNames, functionText, type FunctionCode } from './functions'
export { limits, MODBUS_TCP_PORT } from './limits'
export { lrc } from './lrc'
export {
  formatReference,
  notations,
  parseReference,
  type Notation,
  type ReferenceContext,
  type ReferenceReading,
} from './reference'
export { maskWriteOfBit } from './maskWrite'
export type { Rejection, RejectionReason } from './rejection'
export type { IdentificationCategory, ModbusRequest } from './request'
export { identificationNames, type IdentificationObject, type ModbusResponse } from './response'
export {
  awaitsAnswer,
  decodeRtuFrame,
  decodeRtuResponse,
  encodeRtuFrame,
  encodeRtuRequest,
  rtuResponseLength,
  type SerialFrame,
  type SerialRequest,
} from './rtu'
export { tableOfFunction, tables, type Table } from './tables'
export {
  decodeTcpFrame,
  decodeTcpResponse,
  encodeTcpFrame,
  encodeTcpRequest,
  TcpFramer,
  type TcpChunk,
  type TcpFrame,
  type TcpRequest,
} from './tcp'
export { isBroadcast, parseUnitId, serialUnit, tcpUnit, type SerialUnit, type TcpUnit } from './unitId'
export { RtuFramer, type RtuChunk } from './rtuFramer'
