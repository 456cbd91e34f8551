import type { Device, Job } from '../../job'
import { rackOf } from '../rack'
import type { WalkRecord } from '../record'
import type { RunStep } from '../run'

/**
 * Whether a decision was taken so. Before it is taken nothing that hangs on it is shown; settled without a choice it
 * steers nothing, and all of it is.
 */
function isDecided(record: WalkRecord, device: Device, { decided, as }: NonNullable<RunStep['onlyIf']>): boolean {
  const said = record.steps.find(({ stepKey }) => stepKey.endsWith(` / ${device.id} ${decided}`))
  if (!said) return false
  return said.state === 'done' ? said.note === as : said.state === 'overridden'
}

/**
 * Whether the plan asks for what a step looks at. A check with nothing asked for could only ever be inconclusive: it is
 * no step of this device.
 */
export function isAsked(job: Job, record: WalkRecord, device: Device, step: RunStep): boolean {
  if (step.onlyIf && !isDecided(record, device, step.onlyIf)) return false
  if (step.check === 'firmware') {
    const measure = job.devices.find((each) => each.id === device.firmwareOfId)
    return device.firmwareRelation !== 'any' && (measure !== undefined || device.firmwareNeeded !== '')
  }
  if (step.check === 'rack-codes') return rackOf(job, record, device).length > 1
  if (step.check === 'names-equal') return device.namePlaces.length > 0
  return true
}
