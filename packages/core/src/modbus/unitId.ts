import { ok, parseWholeNumber, type Brand, type Result } from '../units'

/** The unit (slave) a request is for: 1 to 247 on a serial line; 0 and 255 also on TCP. */
export type UnitId = Brand<number, 'UnitId'>

/** @throws RangeError outside 0 to 255 */
export function unitId(value: number): UnitId {
  if (!Number.isInteger(value) || value < 0 || value > 255) throw new RangeError(`Not a unit id: ${value}`)
  return value as UnitId
}

/**
 * Reads a unit id. On a serial line 0 is broadcast and 248 to 255 are reserved. A device that is addressed directly
 * over TCP uses 255, and 0 is accepted too.
 * @source Modbus over Serial Line V1.02, 2.2; Modbus Messaging on TCP/IP V1.0b, 4.4.2.3
 */
export function parseUnitId(text: string, carrier: 'serial' | 'tcp'): Result<UnitId> {
  const typed = text.trim()
  if (carrier === 'tcp' && (typed === '0' || typed === '255')) return ok(Number(typed) as UnitId)
  const read = parseWholeNumber(typed, {
    name: 'Unit id',
    min: 1,
    max: 247,
    reason:
      carrier === 'tcp'
        ? '248 to 254 are reserved; 255 and 0 mean the device itself.'
        : '0 is broadcast, 248 to 255 are reserved.',
  })
  return read.ok ? ok(read.value as UnitId) : read
}
