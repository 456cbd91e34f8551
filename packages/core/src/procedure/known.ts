import type { Device } from '../job'
import { latestFact, NAME_IN, TEXT_ON_TAG, type WalkRecord } from './record'
import { namePlacesOf } from './names'
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
    // The places stand there; what each shows is read and typed.
    case 'names':
      return namePlacesOf(device)
        .map((where) => `${where} = ${read(`${NAME_IN}${where}`)}`)
        .join('; ')
    case 'text-on-tag':
      return read(TEXT_ON_TAG)
    case 'unit-code':
      return read('unit-code')
    default:
      return ''
  }
}
