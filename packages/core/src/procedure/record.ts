import { settingOf, type Device, type Job } from '../job'
import type { BringUpAction } from '../sequence'
import type { Rests } from './rests'
import type { OwnRun, Watch } from './run'

/** How one step of the walk stands. A step without a record has not been looked at. */
export interface StepRecord {
  readonly id: string
  readonly stepKey: string
  readonly state: 'done' | 'overridden' | 'parked' | 'waiting' | 'unexpected'
  /** What was seen, written down or chosen; the reason of an override or of parking. */
  readonly note: string
  readonly who: string
  readonly at: number
  readonly wait: WaitRecord | null
  /** Of a check that passed: what it rested on, by name. When that changes it has not passed any more. */
  readonly rests: Rests | null
  readonly version: number
}

/** A running wait. Times are milliseconds since 1970, so that it survives a restart. */
export interface WaitRecord {
  readonly startedAt: number
  readonly seconds: number
  /** Address and port that are looked at, as planned; blank where only time is waited for. */
  readonly watch: Watch | null
  readonly oldAddress: string
  readonly newAddress: string
  readonly port: number
  readonly seenGoneAt: number | null
  readonly backAt: number | null
  /** Tries since the start-up time was over. */
  readonly triesAfter: number
  readonly rangAt: number | null
}

/** The address that a wait looks at by itself: the planned one where it is to come back there, else the present one. */
export const watchedAddress = ({ watch, newAddress, oldAddress }: WaitRecord): string =>
  watch === 'back-at-planned' ? newAddress : oldAddress

/** How far something that was set has come. Each is a fact of its own, with who saw it. */
export type Standing = 'found' | 'entered' | 'in-force' | 'verified'

export const standings: Readonly<Record<Standing, string>> = {
  found: 'As found',
  entered: 'Entered',
  'in-force': 'In force',
  verified: 'Verified',
}

export interface SettingFact {
  readonly id: string
  readonly deviceId: string
  /** `address`, `power`, `identity`, `start-up`, or the name of another setting. */
  readonly setting: string
  readonly standing: Standing
  readonly text: string
  readonly how: 'read-live' | 'typed' | 'seen' | 'measured'
  readonly who: string
  readonly at: number
}

/** The settings under which it is kept what name was read in a place. */
export const NAME_IN = 'name in '

/** The setting under which it is kept what a tag that is scanned says, as a person reads it. */
export const TEXT_ON_TAG = 'text-on-tag'

/** The setting under which the address is kept that went silent when the plug of a device was pulled. */
export const PLUG_SHOWS = 'plug-shows'

/** What is kept of a text that arrived: the port that it came through is part of it. */
export const textArrived = (port: number): string => `arrives at port ${port}`

/** Something temporary that somebody left: it counts until it is seen to be back. */
export interface TemporaryThing {
  readonly id: string
  readonly what: string
  readonly putBack: string
  readonly who: string
  readonly at: number
  readonly backBy: string | null
  readonly backAt: number | null
  readonly version: number
}

/** What the order is computed with, as the job differs from what is usual. */
export interface OrderSettings {
  readonly holds: 1 | 2
  readonly people: 1 | 2
  readonly preference: 'seconds' | 'fewest-changes'
  readonly laptopChange: number
  readonly cableMove: number
  readonly leadMove: number
  readonly groups: Readonly<
    Record<
      string,
      {
        readonly seconds?: number
        readonly live?: boolean
        readonly mustStayLive?: boolean
        readonly chained?: boolean
      }
    >
  >
  /** Devices that are not walked now, by id. */
  readonly leftOut: readonly string[]
  /** Run chosen for a device, by id. */
  readonly runs: Readonly<Record<string, string>>
  /** Runs begun beside the order, in the order in which they were begun. */
  readonly onDemand: readonly RunOnDemand[]
  /** Lines of the kit list that are packed, by their id. */
  readonly packed: readonly string[]
}

/** A run that somebody begins for one device whenever it is needed: a reset, a restart, a swap. */
export interface RunOnDemand {
  readonly id: string
  readonly deviceId: string
  readonly runId: string
}

export const usualSettings: OrderSettings = {
  holds: 1,
  people: 1,
  preference: 'seconds',
  laptopChange: 45,
  cableMove: 30,
  leadMove: 15,
  groups: {},
  leftOut: [],
  runs: {},
  onDemand: [],
  packed: [],
}

/** Everything first contact keeps of a job. */
export interface WalkRecord {
  readonly version: number
  readonly settings: OrderSettings
  /** The order that is walked, with what is done; empty before it is begun. */
  readonly order: readonly BringUpAction[]
  readonly steps: readonly StepRecord[]
  readonly facts: readonly SettingFact[]
  readonly temporary: readonly TemporaryThing[]
  readonly runs: readonly OwnRun[]
}

export const blankWalk: WalkRecord = {
  version: 1,
  settings: usualSettings,
  order: [],
  steps: [],
  facts: [],
  temporary: [],
  runs: [],
}

/**
 * A walk that was taken in from a file: what was waiting there waits no more. A file never makes the program look at
 * an address; somebody begins the wait again.
 */
export function withParkedWaits(walk: WalkRecord): WalkRecord {
  return {
    ...walk,
    steps: walk.steps.map((step) =>
      step.state === 'waiting'
        ? { ...step, state: 'parked', wait: null, note: 'Was waiting when the file was made. Begin the wait again.' }
        : step,
    ),
  }
}

/** The latest fact of a setting of a device, for one standing or for any. */
export function latestFact(
  record: Pick<WalkRecord, 'facts'>,
  deviceId: string,
  setting: string,
  standing?: Standing,
): SettingFact | undefined {
  let latest: SettingFact | undefined
  for (const fact of record.facts)
    if (
      fact.deviceId === deviceId &&
      fact.setting === setting &&
      (standing === undefined || fact.standing === standing)
    )
      if (!latest || fact.at >= latest.at) latest = fact
  return latest
}

/** The setting under which a measured start-up time is kept: what the bench takes says nothing of the plant. */
export const startUpSetting = (mode: 'plant' | 'bench'): string => (mode === 'plant' ? 'start-up' : 'start-up, bench')

/**
 * Start-up seconds of a device: what was measured last on a device of its kind on the plant, else what its kind or the
 * plan says.
 */
export function startUpOf(job: Job, record: Pick<WalkRecord, 'facts'>, device: Device): number {
  const planned = settingOf(job, device).startUpSeconds
  if (job.mode === 'bench') return planned
  const alike = new Set(job.devices.filter((each) => each.kind === device.kind).map((each) => each.id))
  const measured = record.facts.filter((fact) => fact.setting === startUpSetting('plant') && alike.has(fact.deviceId))
  const latest = measured.reduce<SettingFact | undefined>((a, b) => (a && a.at > b.at ? a : b), undefined)
  const seconds = Math.ceil(Number.parseFloat(latest?.text ?? ''))
  return Number.isFinite(seconds) && seconds > 0 ? seconds : planned
}
