import { settingOf, type Device, type Job } from '../../job'
import { kindFacts } from '../../kind'
import { plannedOf } from '../fields'
import type { BringUpAction, HostAddress } from '../../sequence'
import type { StepRecord, WalkRecord } from '../record'
import { runAtPlace, runFits, runFor, type OwnRun, type RunFacts, type RunPlace, type RunStep } from '../run'
import { shippedRuns } from '../shipped'
import type { Held } from '../wholePlant'
import type { StepInMenu } from './menuStep'

/** One step of the walk, with the job's values in its sentences. */
export interface WalkStep {
  readonly key: string
  readonly stopKey: string
  /** The device that it is about; `null` where it is about none or several. */
  readonly deviceId: string | null
  /** All devices that it is about. */
  readonly deviceIds: readonly string[]
  readonly step: RunStep
  /** Seconds of a wait; 0 for any other step. */
  readonly seconds: number
  /** It holds back what comes after it in its stop. */
  readonly blocks: boolean
  readonly record: StepRecord | undefined
  /** Where the laptop is to be for this step, where that is another place than that of its stop. */
  readonly laptop?: HostAddress
  /** What it does in the serial menu of its device, where its kind has a description of that. */
  readonly menu?: StepInMenu
}

/** One stop of the walk: an action of the order with everything that belongs to it. */
export interface Stop {
  readonly key: string
  readonly title: string
  readonly reason: string
  readonly action: BringUpAction | null
  readonly deviceIds: readonly string[]
  /** Hands-on seconds. */
  readonly seconds: number
  readonly steps: readonly WalkStep[]
  /** The address the laptop takes, where the stop moves it. */
  readonly laptop: HostAddress | null
  readonly state: 'settled' | 'begun' | 'ahead'
  /** Of a run begun beside the order: its id; `null` where the stop belongs to the order. */
  readonly onDemand: string | null
  /** Why it waits for something that is not in the order; `null` where it may be done. */
  readonly held: Held | null
}

/** All runs of a job: its own before those that ship. */
export const runsOf = (own: readonly OwnRun[]): readonly RunFacts[] => [...own.map((run) => run.facts), ...shippedRuns]

/** The run of a device: the one chosen for it while it fits, else the first that fits by itself. */
export function runOfDevice(job: Job, record: WalkRecord, device: Device): RunFacts | undefined {
  const runs = runsOf(record.runs)
  const { way } = settingOf(job, device)
  const chosen = runs.find((run) => run.id === record.settings.runs[device.id])
  const place = placeOf(job, device)
  if (chosen && runFits(chosen, device.kind, way, place)) return chosen
  const { id, defaultAddress } = kindFacts(device.kind, job.kinds)
  const there = place && runAtPlace({ id, isAddressed: defaultAddress.kind !== 'none' }, place, runs)
  return there ?? runFor(device.kind, way, runs)
}

const BUSES: readonly string[] = ['field-bus', 'motion-bus', 'token-bus']

/** Where a device without an address of its own stands, by its first node; `undefined` for one that has an address. */
export function placeOf(job: Job, device: Device): RunPlace | undefined {
  if (plannedOf(job, device)) return undefined
  const medium = job.lines.find(({ id }) => id === device.nodes[0]?.lineId)?.medium
  if (medium === undefined) return undefined
  return medium === 'backplane' ? 'rack' : BUSES.includes(medium) ? 'bus' : 'line'
}

/** Whether nothing is left to do for a step. */
export const isSettled = (step: WalkStep): boolean =>
  step.record !== undefined && step.record.state !== 'waiting' && step.record.state !== 'unexpected'
