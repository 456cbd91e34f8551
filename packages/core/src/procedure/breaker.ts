import type { Device, Job } from '../job'

/** The breaker or isolation group of a device; without one it is a group by itself. */
export const groupOf = (device: Device): string => device.isolation || device.tag

/** The breaker that a device gets its power from: its own, else that of what it hangs behind, nearest first. */
export function breakerOf(job: Job, device: Device): string {
  const seen = new Set<string>()
  let each = device
  while (each.isolation === '' && !seen.has(each.id)) {
    seen.add(each.id)
    const relayId = each.behindId
    const relay = job.devices.find(({ id }) => id === relayId)
    if (!relay) return groupOf(each)
    each = relay
  }
  return groupOf(each)
}
