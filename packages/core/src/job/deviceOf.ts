import type { Device, Job } from './model'

/** Devices by id, made once for each list of devices: a job is asked for them thousands of times. */
const indexes = new WeakMap<readonly Device[], ReadonlyMap<string, Device>>()

export function deviceOf(job: Job, id: string): Device | undefined {
  const known = indexes.get(job.devices)
  if (known) return known.get(id)
  const index = new Map(job.devices.map((device) => [device.id, device]))
  indexes.set(job.devices, index)
  return index.get(id)
}
