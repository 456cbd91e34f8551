import type { Device, Job } from '../../job'
import { plannedOf } from '../fields'
import { networkUnsaid } from '../networkUnsaid'
import type { RunStep } from '../run'
import type { Making } from './making'

/** Devices that have no address of their own and are walked all the same. One whose network is not said has one. */
export function withoutAddress({ job, record, walked }: Making): readonly Device[] {
  return job.devices.filter(
    (device) =>
      !walked.has(device.id) &&
      !record.settings.leftOut.includes(device.id) &&
      !plannedOf(job, device) &&
      networkUnsaid(device) === undefined,
  )
}

/**
 * A step of a run as it is for a device without an address of its own: nobody looks for it at an address, it is reached
 * leg by leg through what it hangs behind. Nothing where the step is about an address only.
 */
export function asWithoutAddress(job: Job, device: Device, step: RunStep): RunStep | undefined {
  if (plannedOf(job, device)) return step
  if (step.check === 'laptop-in-subnet' || step.check === 'gone-from-present') return undefined
  if (step.check === 'reached-planned') {
    // A leg that the program cannot look at would only ever be inconclusive.
    const isSeen = device.behindId !== null && (device.unitId !== null || device.textPort !== null)
    const { otherwise: _ofAddresses, why: _why, ...rest } = step
    return isSeen ? { ...rest, check: 'reached-present', say: '{tag} is reached, leg by leg: {way}.' } : undefined
  }
  if (step.watch) {
    const { watch: _watch, ...rest } = step
    return rest
  }
  return step
}
