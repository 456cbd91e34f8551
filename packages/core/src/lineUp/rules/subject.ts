import type { Rule, Subject } from '../../findings'
import type { DeviceKindFacts } from '../../kind'
import type { Device, Job } from '../../job'
import { groupedBy } from '../../units'

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

export { PLAN_ONLY } from '../../findings'

export function indexJob(job: Job): JobIndex {
  const byName = groupedBy(job.devices, (device) => device.hostName.toLowerCase() || undefined)
  const bySerial = groupedBy(job.devices, (device) => device.serialNumber || undefined)
  const byId = new Map(job.devices.map((device) => [device.id, device]))
  return {
    withHostName: (name) => byName.get(name.toLowerCase()) ?? [],
    withSerialNumber: (number) => bySerial.get(number) ?? [],
    device: (id) => (id === null ? undefined : byId.get(id)),
  }
}
