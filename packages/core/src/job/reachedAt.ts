import { deviceOf } from './deviceOf'
import type { Device, Job, Port } from './model'

/** The port through which a device is asked: its own, or that of the gateway it hangs behind. */
export function reachedAt(job: Job, device: Device | undefined): Port | undefined {
  const seen = new Set<string>()
  let current = device
  while (current && !seen.has(current.id)) {
    seen.add(current.id)
    if (current.ports[0]) return current.ports[0]
    current = current.behindId === null ? undefined : deviceOf(job, current.behindId)
  }
  return undefined
}
