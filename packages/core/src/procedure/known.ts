import type { Device } from '../job'
import { latestFact, type WalkRecord } from './record'
import type { RecordId } from './run'

/**
 * What was read already of what a step asks to be written down: off a label, a page, or said by the device itself.
 * Never what is planned. Blank where nothing was read.
 */
export function knownFor(record: WalkRecord, device: Device, what: RecordId): string {
  const read = (setting: string) => latestFact(record, device.id, setting)?.text ?? ''
  switch (what) {
    case 'serial-number':
      return device.serialNumber
    case 'order-code':
      return device.orderCodeFound
    case 'firmware':
      // What it says now counts more than what was written down before.
      return read('firmware') || device.firmwareFound
    case 'mac':
      return read('mac') || read('heard')
    case 'unit-code':
      return read('unit-code')
    default:
      return ''
  }
}
