import type { Rule, Subject } from '../../findings'
import type { DeviceKindFacts } from '../../kind'
import type { Device, Job } from '../../job'

/** A device with what the rules look up many times. */
export interface DeviceInJob {
  readonly device: Device
  readonly job: Job
  readonly kind: DeviceKindFacts
  readonly index: JobIndex
}

/** Devices of a job by what should be theirs alone. */
export interface JobIndex {
  readonly withHostName: (name: string) => readonly Device[]
  readonly withSerialNumber: (number: string) => readonly Device[]
  readonly device: (id: string | null) => Device | undefined
}

export type DeviceRule = Rule<DeviceInJob>

export const aboutDevice = (device: Device): Subject => ({ kind: 'device', id: device.id })

export const PLAN_ONLY = 'Changes the plan only. Nothing is sent to a device.'

export function indexJob(job: Job): JobIndex {
  const byName = grouped(job.devices, (device) => device.hostName.toLowerCase())
  const bySerial = grouped(job.devices, (device) => device.serialNumber)
  const byId = new Map(job.devices.map((device) => [device.id, device]))
  return {
    withHostName: (name) => byName.get(name.toLowerCase()) ?? [],
    withSerialNumber: (number) => bySerial.get(number) ?? [],
    device: (id) => (id === null ? undefined : byId.get(id)),
  }
}

function grouped(devices: readonly Device[], keyOf: (device: Device) => string): Map<string, Device[]> {
  const groups = new Map<string, Device[]>()
  for (const device of devices) {
    const key = keyOf(device)
    if (key === '') continue
    const known = groups.get(key)
    if (known) known.push(device)
    else groups.set(key, [device])
  }
  return groups
}
