import { kindFacts, type RestartRule, type WayOfSetting } from '../kind'
import type { Device, Job, Port, School } from './model'

/** How a device is set and how long it takes: its own word, else that of its kind. */
export interface SettingOf {
  readonly way: WayOfSetting
  readonly effective: RestartRule
  readonly startUpSeconds: number
  readonly handsOnSeconds: number
}

export function settingOf(job: Job, device: Device): SettingOf {
  const kind = kindFacts(device.kind, job.kinds)
  return {
    way: device.setting ?? kind.setting,
    effective: device.effective ?? kind.effective,
    startUpSeconds: device.startUpSeconds ?? kind.startUpSeconds,
    handsOnSeconds: device.handsOnSeconds ?? kind.handsOnSeconds,
  }
}

/** Where the address of a port lives: its own word, else that of its network. */
export function schoolOf(job: Job, port: Port): School {
  return port.school ?? job.networks.find((network) => network.id === port.networkId)?.school ?? 'static'
}
