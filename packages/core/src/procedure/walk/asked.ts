import type { Device, Job } from '../../job'
import { servedBy } from '../listed'
import { rackOf } from '../rack'
import { factoryOf } from '../present'
import type { WalkRecord } from '../record'
import { plannedOf } from '../fields'
import type { CheckId, OnlyWhere, RunStep } from '../run'

/**
 * Whether a decision was taken so. Before it is taken nothing that hangs on it is shown; settled without a choice it
 * steers nothing, and all of it is.
 */
function isDecided(
  record: WalkRecord,
  device: Device,
  { decided, as }: NonNullable<RunStep['onlyIf']>,
  stopKey: string | undefined,
): boolean {
  const end = ` / ${device.id} ${decided}`
  const isIt = (key: string) => (stopKey === undefined ? key.endsWith(end) && !isBegun(key) : key === stopKey + end)
  const said = record.steps.find(({ stepKey }) => isIt(stepKey))
  if (!said) return false
  return said.state === 'done' ? said.note === as : said.state === 'overridden'
}

const holdsOf: Readonly<Record<OnlyWhere, (job: Job, device: Device) => boolean>> = {
  'factory-known': (job, device) => factoryOf(job, device) !== undefined,
  'factory-unknown': (job, device) => factoryOf(job, device) === undefined,
  addressed: (job, device) => plannedOf(job, device) !== undefined,
  'not-addressed': (job, device) => plannedOf(job, device) === undefined,
  'named-elsewhere': (_job, device) => device.namePlaces.length > 0,
}

/** Checks that are steps only where the plan asks for something: a plan that changes later asks for them anew. */
const ofThePlan: ReadonlySet<CheckId> = new Set<CheckId>([
  'firmware',
  'relay-firmware',
  'rack-codes',
  'names-equal',
  'served-verified',
  'controller-sees',
])

/** Whether a step may come to be asked when the plan changes, long after its run was done. */
export const isAskedByPlan = ({ check }: RunStep): boolean => check !== undefined && ofThePlan.has(check)

/** Whether a step belongs to a run that was begun beside the order: its decisions are its own. */
const isBegun = (stepKey: string): boolean => stepKey.startsWith('begun ')

/**
 * Whether the plan asks for what a step looks at. A check with nothing asked for could only ever be inconclusive: it is
 * no step of this device.
 *
 * @param stopKey of a run that was begun beside the order
 */
export function isAsked(job: Job, record: WalkRecord, device: Device, step: RunStep, stopKey?: string): boolean {
  if (step.onlyIf && !isDecided(record, device, step.onlyIf, stopKey)) return false
  if (step.onlyWhere && !holdsOf[step.onlyWhere](job, device)) return false
  if (step.check === 'firmware') {
    const measure = job.devices.find((each) => each.id === device.firmwareOfId)
    return device.firmwareRelation !== 'any' && (measure !== undefined || device.firmwareNeeded !== '')
  }
  if (step.check === 'relay-firmware') return device.behindId !== null && device.firmwareNeeded !== ''
  if (step.check === 'served-verified' || step.check === 'controller-sees') return servedBy(job, device).length > 0
  if (step.check === 'rack-codes') return rackOf(job, record, device).length > 1
  if (step.check === 'names-equal') return device.namePlaces.length > 0
  return true
}
