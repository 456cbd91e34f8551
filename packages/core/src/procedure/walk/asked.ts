import type { Device, Job } from '../../job'
import type { RunStep } from '../run'

/**
 * Whether the plan asks for what a step looks at. A check with nothing asked for could only ever be inconclusive: it is
 * no step of this device.
 */
export function isAsked(job: Job, device: Device, step: RunStep): boolean {
  if (step.check === 'firmware') {
    const measure = job.devices.find((each) => each.id === device.firmwareOfId)
    return device.firmwareRelation !== 'any' && (measure !== undefined || device.firmwareNeeded !== '')
  }
  if (step.check === 'names-equal') return device.namePlaces.length > 0
  return true
}
