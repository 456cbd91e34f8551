import type { Change } from '../changes'
import { portOf, type SettingFact } from '../procedure'
import type { Device } from '../job'
import type { Hit } from './hits'

/** What is written down when somebody says which device a box on the wire is. */
export interface Taken {
  readonly changes: readonly Change[]
  readonly facts: readonly Pick<SettingFact, 'deviceId' | 'setting' | 'standing' | 'text' | 'how'>[]
}

/**
 * The identity of somebody who was heard, taken into a device of the plan: where it was found, and what it says of
 * itself. The plan is not touched, and what stands there already is not written over.
 */
export function takenInto(device: Device, hit: Hit): Taken {
  const fields: Record<string, string> = {
    ...(hit.address !== '' && device.asFound !== hit.address && { asFound: hit.address }),
    ...(hit.serialNumber !== '' && device.serialNumber === '' && { serialNumber: hit.serialNumber }),
    ...(hit.firmware !== '' && device.firmwareFound === '' && { firmwareFound: hit.firmware }),
  }
  const fact = (setting: string, text: string) =>
    text === '' ? [] : [{ deviceId: device.id, setting, standing: 'found', text, how: 'seen' } as const]
  return {
    changes:
      Object.keys(fields).length === 0
        ? []
        : [{ op: 'set', table: 'device', id: device.id, version: device.version, fields }],
    facts: [
      // At its planned address it was found as it should be: where it was before counts no more.
      ...fact('address', hit.address),
      ...fact('heard', hit.hardwareAddress),
      ...fact('identity', `heard on the wire${hit.says === '' ? '' : `: ${hit.says}`}`),
    ],
  }
}

/** Devices that somebody heard may be taken into: those with a port. */
export const takeable = (device: Device): boolean => portOf(device) !== undefined || device.ports.length > 0
