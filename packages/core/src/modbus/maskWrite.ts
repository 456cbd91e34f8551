import type { ProtocolAddress } from './address'
import { limits } from './limits'
import type { ModbusRequest } from './request'

/**
 * Sets or clears one bit of a register and leaves its other bits as they are: the server does it in one step, so
 * nothing that changes meanwhile is written back.
 * @throws RangeError for a bit outside 0 to 15
 * @source Modbus Application Protocol V1.1b3, 6.16: result = (present AND and-mask) OR (or-mask AND NOT and-mask)
 */
export function maskWriteOfBit(
  address: ProtocolAddress,
  bit: number,
  value: boolean,
): Extract<ModbusRequest, { code: 22 }> {
  if (!Number.isInteger(bit) || bit < 0 || bit > limits.lastBit) throw new RangeError(`Not a bit of a register: ${bit}`)
  const mask = 1 << bit
  return { code: 22, address, andMask: limits.word & ~mask, orMask: value ? mask : 0 }
}
