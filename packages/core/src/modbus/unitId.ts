import { ok, parseWholeNumber, type Brand, type Result } from '../units'
import { limits } from './limits'

/** A unit (slave) on a serial line: 1 to 247, or 0 for all at once. */
export type SerialUnit = Brand<number, 'SerialUnit'>

/** A unit as a TCP request names it: 0 to 255. A gateway hands 1 to 247 on; 255 and 0 mean the device itself. */
export type TcpUnit = Brand<number, 'TcpUnit'>

const wholeWithin = (value: number, most: number) => Number.isInteger(value) && value >= 0 && value <= most

/** @throws RangeError outside 0 to 247 */
export function serialUnit(value: number): SerialUnit {
  if (!wholeWithin(value, limits.lastSerialUnit)) throw new RangeError(`Not a unit of a serial line: ${value}`)
  return value as SerialUnit
}

/** @throws RangeError outside 0 to 255 */
export function tcpUnit(value: number): TcpUnit {
  if (!wholeWithin(value, limits.directTcpUnit)) throw new RangeError(`Not a unit id: ${value}`)
  return value as TcpUnit
}

/** Whether a unit is all of a serial line at once. Nobody answers it. @source Modbus over Serial Line V1.02, 2.1 */
export const isBroadcast = (unit: SerialUnit): boolean => unit === limits.broadcastUnit

/**
 * Reads the unit id of one device. On a serial line 0 is broadcast and 248 to 255 are reserved. A device that is
 * addressed directly over TCP uses 255, and 0 is accepted too.
 * @source Modbus over Serial Line V1.02, 2.2; Modbus Messaging on TCP/IP V1.0b, 4.4.2.3
 */
export function parseUnitId(text: string, carrier: 'serial'): Result<SerialUnit>
export function parseUnitId(text: string, carrier: 'tcp'): Result<TcpUnit>
export function parseUnitId(text: string, carrier: 'serial' | 'tcp'): Result<SerialUnit | TcpUnit>
export function parseUnitId(text: string, carrier: 'serial' | 'tcp'): Result<SerialUnit | TcpUnit> {
  const typed = text.trim()
  const direct = [limits.broadcastUnit, limits.directTcpUnit].map(String)
  if (carrier === 'tcp' && direct.includes(typed)) return ok(tcpUnit(Number(typed)))
  const read = parseWholeNumber(typed, {
    name: 'Unit id',
    min: limits.firstUnit,
    max: limits.lastSerialUnit,
    reason:
      carrier === 'tcp'
        ? '248 to 254 are reserved; 255 and 0 mean the device itself.'
        : '0 is broadcast, 248 to 255 are reserved.',
  })
  if (!read.ok) return read
  return ok(carrier === 'tcp' ? tcpUnit(read.value) : serialUnit(read.value))
}
