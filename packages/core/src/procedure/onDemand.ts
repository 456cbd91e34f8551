import { formatIpv4 } from '../address'
import type { Device, Job } from '../job'
import { breakerOf, groupOf } from './breaker'
import { factoryOf, isGroupLive, presentOf } from './present'
import { isLeadOut } from './lead'
import type { RunOnDemand, WalkRecord } from './record'
import { phases, runFitsNow, type RunFacts, type RunStep } from './run'
import { shippedRuns } from './shipped'
import { isAsked, isAskedByPlan } from './walk/asked'
import type { Held } from './wholePlant'

/** A run that was begun for a device beside the order, with what it is made of now. */
export interface BegunRun {
  readonly begun: RunOnDemand
  readonly device: Device
  readonly run: RunFacts
  readonly stopKey: string
  /** Its steps as they stand now: decisions steer which follow. */
  readonly steps: readonly RunStep[]
}

/** The key of the stop of a run that was begun. */
export const begunKey = ({ id }: RunOnDemand): string => `begun ${id}`

/** Runs that were begun, in that order; one whose device or run is gone, or does not fit any more, is left out. */
export function begunRuns(job: Job, record: WalkRecord): readonly BegunRun[] {
  return record.settings.onDemand.flatMap((begun) => {
    const device = job.devices.find((each) => each.id === begun.deviceId)
    const run = [...record.runs.map(({ facts }) => facts), ...shippedRuns].find((each) => each.id === begun.runId)
    if (!device || !run || !runFitsNow(run, device.kind)) return []
    const stopKey = begunKey(begun)
    const steps = withPower(run)
      .filter((step) => isAsked(job, record, device, step, stopKey))
      .flatMap(laptopMoved)
    return [{ begun, device, run, stopKey, steps }]
  })
}

/** In the order the breaker is an action of its own; a run that stands in both is given it here. */
function withPower({ onDemand, steps }: RunFacts): readonly RunStep[] {
  const place = steps.findIndex(({ phase }) => phases.indexOf(phase) >= phases.indexOf('power'))
  if (onDemand !== 'also' || place < 0) return steps
  const on: RunStep = {
    id: 'power-on',
    phase: 'power',
    kind: 'do',
    say: 'Put {group} on: {tag}. With it come: {alsoOff}.',
    acts: ['powers'],
    becomes: 'live',
  }
  return [...steps.slice(0, place), on, ...steps.slice(place)]
}

/** A step that moves the laptop is two: what is typed, and the look that it is there. */
function laptopMoved(step: RunStep): readonly RunStep[] {
  if (!step.laptop) return [step]
  const there = { why: step.say, phase: step.phase, laptop: step.laptop }
  return [
    {
      ...there,
      id: `${step.id}-set`,
      kind: 'set',
      say: 'This laptop’s wired adapter: {laptopAt}. Its gateway stays blank.',
      leaves: { what: 'Laptop at {laptopAt}', putBack: 'Back to the address it had, or to automatic.' },
      putsBack: 'Laptop at ',
    },
    {
      ...there,
      id: `${step.id}-seen`,
      kind: 'check',
      check: 'laptop-in-subnet',
      say: 'The laptop is in {laptopIn}.',
      otherwise: [
        {
          saw: 'It is not',
          likely: 'The address went to another adapter, or its link is down.',
          check: 'See the list of interfaces.',
        },
      ],
    },
  ]
}

/** Whether a run gives its device another address on the way. */
const movesAddress = ({ run }: BegunRun): boolean =>
  run.steps.some(({ becomes }) => becomes === 'at-factory' || becomes === 'entered')

/**
 * Runs begun of which something is left to do. One that is done to its last step is not in hand again because the plan
 * asks for one more comparison since: that stands in its stop, and holds nobody back.
 */
export function openRuns(job: Job, record: WalkRecord): readonly BegunRun[] {
  if (record.settings.onDemand.length === 0) return []
  const settled = new Set(
    record.steps.filter(({ state }) => state !== 'waiting' && state !== 'unexpected').map(({ stepKey }) => stepKey),
  )
  return begunRuns(job, record).filter(({ stopKey, device, steps }) => {
    const isSettled = ({ id }: RunStep) => settled.has(`${stopKey} / ${device.id} ${id}`)
    const last = steps.at(-1)
    const isOver = last !== undefined && isSettled(last)
    return steps.some((step) => !isSettled(step) && !(isOver && isAskedByPlan(step)))
  })
}

/** Devices that a run in hand takes to another address and back: the order waits for it and leaves them alone. */
export const inOtherHands = (job: Job, record: WalkRecord): readonly string[] =>
  openRuns(job, record)
    .filter(movesAddress)
    .map(({ device }) => device.id)

/**
 * Why a run is not done as things are: after it the device is at its factory address, and another that has power is
 * there already. `undefined` where nothing stands in the way, or the device is there itself by now.
 */
export function heldOnDemand(job: Job, record: WalkRecord, { device, run }: BegunRun): Held | undefined {
  if (!run.steps.some(({ becomes }) => becomes === 'at-factory')) return undefined
  const factory = factoryOf(job, device)
  if (!factory || presentOf(job, record, device)?.address === factory.address) return undefined
  const there = job.devices.filter(
    (each) =>
      each.id !== device.id &&
      each.ports.length > 0 &&
      presentOf(job, record, each)?.address === factory.address &&
      isGroupLive(job, record, groupOf(each)) &&
      !isLeadOut(record, each.id),
  )
  if (there.length === 0) return undefined
  const names = there.map(({ tag }) => tag).join(', ')
  const breakers = [...new Set(there.map((each) => breakerOf(job, each)))].filter(
    (each) => each !== breakerOf(job, device),
  )
  return {
    why: `${device.tag} waits: reset, it is at ${formatIpv4(factory.address)}, and ${names} ${there.length === 1 ? 'is' : 'are'} live there.`,
    help: [
      `Pull the network lead of ${names}, and plug it in when ${device.tag} has its address.`,
      ...(breakers.length > 0 ? [`Take ${breakers.join(', ')} off meanwhile.`] : []),
    ],
    leadsOf: there.map(({ id }) => id),
  }
}
