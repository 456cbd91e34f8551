import type { Device, Job } from '../job'
import { portOf } from './present'

/**
 * The device itself where it is planned with an address, else the nearest that it is reached through and that has one;
 * `undefined` where nobody on the way has.
 */
export function nearestWithAddress(job: Job, device: Device | undefined): Device | undefined {
  const seen = new Set<string>()
  for (let at = device; at && !seen.has(at.id);) {
    if (portOf(at)?.address) return at
    seen.add(at.id)
    const behindId: string | null = at.behindId
    at = job.devices.find(({ id }) => id === behindId)
  }
  return undefined
}
