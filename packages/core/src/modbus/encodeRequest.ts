import type { ProtocolAddress } from './address'
import { byte, packBits, wordBytes } from './bytes'
import { limits } from './limits'
import { identificationCodes, MEI_DEVICE_IDENTIFICATION, type ModbusRequest } from './request'

/**
 * The protocol data unit of a request.
 * @throws RangeError when a count or value is outside the limits: callers check what people type before
 * @source Modbus Application Protocol V1.1b3, clause 6
 */
export function encodeRequest(request: ModbusRequest): Uint8Array {
  switch (request.code) {
    case 1:
    case 2:
      return readPdu(request.code, request.address, request.count, limits.readBits)
    case 3:
    case 4:
      return readPdu(request.code, request.address, request.count, limits.readRegisters)
    case 5:
      return Uint8Array.of(5, ...wordBytes(request.address), request.value ? 0xff : 0, 0)
    case 6:
      return Uint8Array.of(6, ...wordBytes(request.address), ...wordBytes(request.value))
    case 15: {
      const count = counted(request.address, request.values.length, limits.writeCoils)
      const packed = packBits(request.values)
      return Uint8Array.of(15, ...wordBytes(request.address), ...wordBytes(count), packed.length, ...packed)
    }
    case 16: {
      const count = counted(request.address, request.values.length, limits.writeRegisters)
      return Uint8Array.of(16, ...wordBytes(request.address), ...wordBytes(count), 2 * count, ...words(request.values))
    }
    case 22:
      return Uint8Array.of(
        22,
        ...wordBytes(request.address),
        ...wordBytes(request.andMask),
        ...wordBytes(request.orMask),
      )
    case 23: {
      const read = counted(request.address, request.count, limits.readWriteRead)
      const write = counted(request.writeAddress, request.values.length, limits.readWriteWrite)
      return Uint8Array.of(
        23,
        ...wordBytes(request.address),
        ...wordBytes(read),
        ...wordBytes(request.writeAddress),
        ...wordBytes(write),
        2 * write,
        ...words(request.values),
      )
    }
    case 43:
      return Uint8Array.of(43, MEI_DEVICE_IDENTIFICATION, identificationCodes[request.category], byte(request.object))
  }
}

function readPdu(code: number, address: ProtocolAddress, count: number, most: number): Uint8Array {
  return Uint8Array.of(code, ...wordBytes(address), ...wordBytes(counted(address, count, most)))
}

function counted(address: ProtocolAddress, count: number, most: number): number {
  if (!Number.isInteger(count) || count < 1 || count > most)
    throw new RangeError(`Count ${count} is outside 1 to ${most}`)
  if (address + count - 1 > limits.lastAddress)
    throw new RangeError(`${count} from ${address} reach past ${limits.lastAddress}`)
  return count
}

const words = (values: readonly number[]): readonly number[] => values.flatMap(wordBytes)
