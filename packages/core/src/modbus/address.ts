import type { Brand } from '../units'
import { limits } from './limits'

/** The address in the frame: 0 to 65 535, within one table. */
export type ProtocolAddress = Brand<number, 'ProtocolAddress'>

/** The number in the data model: 1 to 65 536, one above the protocol address. */
export type RegisterNumber = Brand<number, 'RegisterNumber'>

/** @throws RangeError outside 0 to 65 535 */
export function protocolAddress(value: number): ProtocolAddress {
  if (!Number.isInteger(value) || value < 0 || value > limits.lastAddress) {
    throw new RangeError(`Not a protocol address: ${value}`)
  }
  return value as ProtocolAddress
}

/** @source Modbus Application Protocol V1.1b3, 4.4: the element numbered X is addressed X - 1 */
export function registerNumber(address: ProtocolAddress): RegisterNumber {
  return (address + 1) as RegisterNumber
}
