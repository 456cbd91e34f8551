import type { Device, Job } from '../../job'
import { kindFacts, type LampMeaning } from '../../kind'
import type { BringUpAction, BringUpJob, HostAddress } from '../../sequence'
import { factoryOf, presentOf } from '../present'
import { fieldsOf, type StepFields } from '../fields'
import { asItStands } from '../rests'
import { latestFact, startUpOf, type StepRecord, type WalkRecord } from '../record'
import type { Phase, RunStep } from '../run'
import { isAsked } from './asked'
import { inMenu } from './menuStep'
import { isSettled, runOfDevice, type Stop, type WalkStep } from './model'
import { filledStep } from './steps'
import { asWithoutAddress } from './withoutAddress'

/** What a stop is made of; its state follows from its steps. */
interface StopParts {
  readonly key: string
  readonly title: string
  readonly reason: string
  readonly action?: BringUpAction
  readonly devices?: readonly Device[]
  /** Hands-on seconds. */
  readonly seconds?: number
  readonly steps: readonly WalkStep[]
  readonly laptop?: HostAddress
  readonly onDemand?: string
}

/** What every stop is made with: the job, what is recorded of it, and the ways to make steps of it. */
export interface Making {
  readonly job: Job
  readonly record: WalkRecord
  readonly given: BringUpJob
  /** Devices of the order, by id: those that are not frozen. */
  readonly walked: ReadonlySet<string>
  /** One step of a stop, with its record where somebody settled it. `all` are several devices that it is about. */
  readonly step: (stopKey: string, device: Device | null, step: RunStep, all?: readonly Device[]) => WalkStep
  /** The steps of a device's run in these phases, as the run has them. */
  readonly rawSteps: (device: Device, phases: readonly Phase[]) => readonly RunStep[]
  /** The steps of a device's run in these phases, with the job's values in them. */
  readonly deviceSteps: (
    stopKey: string,
    device: Device,
    phases: readonly Phase[],
    fields?: StepFields,
  ) => readonly WalkStep[]
  readonly fields: (device: Device) => StepFields
}

export function makingOf(job: Job, record: WalkRecord, given: BringUpJob): Making {
  const records: ReadonlyMap<string, StepRecord> = new Map(
    record.steps.map((step) => [step.stepKey, asItStands(job, record, step)]),
  )
  const step: Making['step'] = (stopKey, device, run, all = device ? [device] : []) => {
    const whom = device ? `${device.id} ` : all.length > 0 ? `${signOf(all)} ` : ''
    const key = `${stopKey} / ${whom}${run.id}`
    const [first] = all
    const kind = first && kindFacts(first.kind, job.kinds)
    const startUp = Math.max(0, ...all.map((each) => startUpOf(job, record, each)))
    const lamps: readonly LampMeaning[] | undefined = run.kind === 'expect' ? (run.lamps ?? kind?.lamps) : undefined
    return {
      key,
      stopKey,
      deviceId: device?.id ?? null,
      deviceIds: all.map(({ id }) => id),
      step: lamps ? { ...run, lamps } : run,
      seconds: run.kind === 'wait' ? (run.seconds === 'start-up' ? startUp : (run.seconds ?? 0)) : 0,
      blocks: run.kind === 'caution' || run.protects !== undefined,
      record: records.get(key),
    }
  }
  const filling = (device: Device): StepFields => {
    const planned = fieldsOf(
      job,
      device,
      presentOf(job, record, device),
      startUpOf(job, record, device),
      factoryOf(job, device),
    )
    // What was read off a label fills every sentence that wants it, where nothing is planned.
    const mac = device.ports.some((port) => port.mac !== null) ? undefined : latestFact(record, device.id, 'mac')
    const code = latestFact(record, device.id, 'unit-code')
    return { ...planned, ...(mac && { mac: mac.text }), ...(code && { upsCode: code.text }) }
  }
  // A device stands in several stops, each with many steps: what fills them is worked out once.
  const known = new Map<Device, StepFields>()
  const fields: Making['fields'] = (device) => {
    const before = known.get(device)
    if (before) return before
    const made = filling(device)
    known.set(device, made)
    return made
  }
  const rawSteps: Making['rawSteps'] = (device, phases) =>
    (runOfDevice(job, record, device)?.steps ?? [])
      .filter((each) => phases.includes(each.phase) && each.check !== 'units-behind')
      .filter((each) => isAsked(job, record, device, each))
      .flatMap((each) => asWithoutAddress(job, device, each) ?? [])
  return {
    job,
    record,
    given,
    walked: new Set(given.devices.flatMap(({ id, frozen }) => (frozen ? [] : [id]))),
    step,
    fields,
    rawSteps,
    deviceSteps: (stopKey, device, phases, values = fields(device)) =>
      rawSteps(device, phases).map((each) => ({
        ...step(stopKey, device, filledStep(each, values)),
        ...inMenu(job, device, each, values),
      })),
  }
}

/**
 * A short sign for several devices, the same in any order: what was said of some is not said of more. By their tags,
 * which are the same in a copy of the job.
 */
function signOf(devices: readonly Device[]): string {
  let hash = 0x811c9dc5
  // FNV-1a, 32 bits, from memory.
  for (const letter of devices
    .map(({ tag }) => tag)
    .sort()
    .join())
    hash = Math.imul(hash ^ letter.charCodeAt(0), 0x01000193)
  return `${devices.length}-${(hash >>> 0).toString(16)}`
}

/** A stop of these parts; nothing holds it yet. */
export function stopOf({
  key,
  title,
  reason,
  action,
  devices = [],
  seconds = 0,
  steps,
  laptop,
  onDemand,
}: StopParts): Stop {
  return {
    key,
    title,
    reason,
    action: action ?? null,
    deviceIds: devices.map((device) => device.id),
    seconds,
    steps,
    laptop: laptop ?? null,
    onDemand: onDemand ?? null,
    state: steps.every(isSettled) ? 'settled' : steps.some((step) => step.record) ? 'begun' : 'ahead',
    held: null,
  }
}
