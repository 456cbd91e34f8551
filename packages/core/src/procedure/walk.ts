import { formatIpv4, formatSubnet, subnetOf } from '../address'
import { settingOf, type Device, type Job } from '../job'
import { kindFacts, type LampMeaning } from '../kind'
import { wordsOf, type BringUpAction, type BringUpJob, type HostAddress } from '../sequence'
import { groupOf, presentOf } from './bringUpJobOf'
import { fieldsOf, plannedOf, type StepFields } from './fields'
import { startUpOf, type StepRecord, type WalkRecord } from './record'
import { phases, runFits, runFor, type OwnRun, type Phase, type RunFacts, type RunStep } from './run'
import { shippedRuns } from './shipped'
import { actionKey, laptopHost } from './walkKeys'
import { heldActions, type Held } from './wholePlant'
import {
  cableStep,
  filledStep,
  findAgainStep,
  identifiedStep,
  last,
  offStep,
  onStep,
  padded,
  powerCaution,
  startStep,
} from './walkSteps'

/** One step of the walk, with the job's values in its sentences. */
export interface WalkStep {
  readonly key: string
  readonly stopKey: string
  readonly deviceId: string | null
  readonly step: RunStep
  /** Seconds of a wait; 0 for any other step. */
  readonly seconds: number
  /** It holds back what comes after it in its stop. */
  readonly blocks: boolean
  readonly record: StepRecord | undefined
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
  return chosen && runFits(chosen, device.kind, way) ? chosen : runFor(device.kind, way, runs)
}

/** Whether nothing is left to do for a step. */
export const isSettled = (step: WalkStep): boolean =>
  step.record !== undefined && step.record.state !== 'waiting' && step.record.state !== 'unexpected'

/**
 * The walk: every action of the order with the steps of its devices' runs, then devices without an address of their
 * own. Keys of stops and steps stay when the order is planned again, so progress stays with them.
 */
export function walkOf(
  job: Job,
  record: WalkRecord,
  order: readonly BringUpAction[],
  given: BringUpJob,
): readonly Stop[] {
  return new WalkMaker(job, record, order, given).make()
}

class WalkMaker {
  readonly #records: ReadonlyMap<string, StepRecord>
  readonly #counts = new Map<string, number>()
  readonly #cameOn = new Set<string>()

  constructor(
    readonly job: Job,
    readonly record: WalkRecord,
    readonly order: readonly BringUpAction[],
    readonly given: BringUpJob,
  ) {
    this.#records = new Map(record.steps.map((step) => [step.stepKey, step]))
  }

  make(): readonly Stop[] {
    const { job, order, given } = this
    const tags = new Map(job.devices.map((device) => [device.id, device.tag]))
    const words = wordsOf(given, order, (id) => tags.get(id) ?? id)
    const stops = this.#withHeld(
      order.map((action, index) => this.#stopOf(action, words[index] ?? { title: '', reason: '' })),
    )
    const through = this.#stopsThroughRelays()
    const placed = new Set<string>()
    // What is reached through a relay comes when the relay has just been found: the laptop is in its subnet then.
    const inOrder = stops.flatMap((stop) => {
      const relayId = stop.action?.kind === 'verify' ? stop.action.deviceId : ''
      // Devices that hang behind nobody come at the end, once.
      if (relayId === '' || !through.has(relayId)) return [stop]
      placed.add(relayId)
      const behind = [...(through.get(relayId) ?? []), ...this.#countStops([relayId])]
      return [stop, ...behind.map((each) => ({ ...each, held: stop.held }))]
    })
    const rest = [...through].filter(([relayId]) => !placed.has(relayId))
    return [...inOrder, ...rest.flatMap(([, list]) => list), ...this.#countStops(rest.map(([relayId]) => relayId))]
  }

  /** What waits, because something that is not in the order stands in the plant. What is settled is over. */
  #withHeld(stops: readonly Stop[]): readonly Stop[] {
    const open = stops.filter((stop) => stop.state !== 'settled' && stop.action)
    const held = heldActions(
      this.job,
      this.record,
      this.given,
      open.flatMap((stop) => stop.action ?? []),
    )
    const byKey = new Map(open.map((stop, index) => [stop.key, held.get(index) ?? null]))
    return stops.map((stop) => ({ ...stop, held: byKey.get(stop.key) ?? null }))
  }

  /** Stops of devices without an address of their own, by the device with one that they are reached through. */
  #stopsThroughRelays(): ReadonlyMap<string, readonly Stop[]> {
    const { job, record } = this
    const walked = new Set(this.given.devices.map((device) => device.id))
    const through = new Map<string, Stop[]>()
    for (const device of job.devices) {
      if (walked.has(device.id) || record.settings.leftOut.includes(device.id) || plannedOf(job, device)) continue
      const key = `device ${device.id}`
      const steps = this.#deviceSteps(key, device, phases)
      if (steps.length === 0) continue
      const behind = job.devices.find((each) => each.id === device.behindId)
      const reason = behind
        ? `It has no address of its own: it is reached through ${behind.tag}.`
        : 'It has no address of its own.'
      const { handsOnSeconds } = settingOf(job, device)
      const stop = this.#stop(key, `${device.tag}: ${device.what}`, reason, null, [device], handsOnSeconds, steps, null)
      const relay = relayOf(job, device, walked)
      through.set(relay, [...(through.get(relay) ?? []), stop])
    }
    return through
  }

  /** What hangs behind a gateway is counted when all of it has been walked. */
  #countStops(relayIds: readonly string[]): readonly Stop[] {
    return this.job.devices.flatMap((device) => {
      if (!relayIds.includes(device.id)) return []
      if (!this.given.devices.some((each) => each.id === device.id)) return []
      const key = `behind ${device.id}`
      const counts = (runOfDevice(this.job, this.record, device)?.steps ?? []).filter(
        (step) => step.check === 'units-behind',
      )
      const steps = counts.map((step) => this.#step(key, device, filledStep(step, this.#fields(device))))
      if (steps.length === 0 || !this.job.devices.some((each) => each.behindId === device.id)) return []
      const reason = 'Everything behind it has been walked.'
      return [this.#stop(key, `Count what is behind ${device.tag}`, reason, null, [device], 0, steps, null)]
    })
  }

  /** The key of an action: what it is, whom it concerns, and the how-manieth of its like it is. */
  #keyOf(action: BringUpAction): string {
    const base = actionKey(action)
    const count = (this.#counts.get(base) ?? 0) + 1
    this.#counts.set(base, count)
    return `${base} ${count}`
  }

  #stopOf(action: BringUpAction, { title, reason }: { title: string; reason: string }): Stop {
    const key = this.#keyOf(action)
    const byId = (id: string) => this.job.devices.filter((device) => device.id === id)
    switch (action.kind) {
      case 'laptop': {
        const laptop = laptopHost(this.given, action.into)
        return this.#stop(
          key,
          title,
          reason,
          action,
          [],
          this.given.seconds.laptopChange,
          this.#laptopSteps(key, laptop),
          laptop,
        )
      }
      case 'cable': {
        const devices = byId(action.into)
        const steps = [this.#step(key, null, cableStep(title, action.into === 'switch'))]
        return this.#stop(key, title, reason, action, devices, this.given.seconds.cableMove, steps, null)
      }
      case 'set': {
        const devices = byId(action.deviceId)
        const seconds = this.given.devices.find((device) => device.id === action.deviceId)?.handsOnSeconds ?? 0
        const steps = devices.flatMap((device) => this.#setSteps(key, device, action))
        return this.#stop(key, title, reason, action, devices, seconds, steps, null)
      }
      case 'verify': {
        const devices = byId(action.deviceId)
        const steps = devices.flatMap((device) => {
          const own = this.#deviceSteps(key, device, ['verify', 'after'])
          const looks = own.some(({ step }) => step.check === 'reached-planned')
          return looks ? own : [this.#step(key, device, findAgainStep), ...own]
        })
        return this.#stop(key, title, reason, action, devices, 0, steps, null)
      }
      default:
        return this.#powerStop(key, action, title, reason)
    }
  }

  #powerStop(key: string, action: Extract<BringUpAction, { groupId: string }>, title: string, reason: string): Stop {
    const members = this.job.devices.filter(
      (device) => groupOf(device) === action.groupId && this.given.devices.some((each) => each.id === device.id),
    )
    const seconds = this.given.groups.find((group) => group.id === action.groupId)?.seconds ?? 0
    const names = members.map((device) => device.tag).join(', ')
    const steps: WalkStep[] = []
    if (action.kind === 'group-off') {
      steps.push(this.#step(key, null, offStep(action.groupId, names)))
      for (const device of members)
        steps.push(...this.#deviceSteps(key, device, ['effective']).filter(({ step }) => step.kind === 'expect'))
    } else if (this.#cameOn.has(action.groupId)) {
      steps.push(
        this.#step(key, null, powerCaution(action.groupId, names)),
        this.#step(key, null, onStep(action.groupId, names)),
      )
      for (const device of members) steps.push(this.#step(key, device, startStep('back-at-planned')))
    } else {
      for (const device of members) steps.push(...this.#beforePower(key, device))
      if (!steps.some(({ step }) => step.covers?.includes('powers')))
        steps.push(this.#step(key, null, powerCaution(action.groupId, names)))
      steps.push(this.#step(key, null, onStep(action.groupId, names)))
      for (const device of members) {
        const own = this.#deviceSteps(key, device, ['power'])
        steps.push(...own)
        if (!own.some(({ step }) => step.kind === 'wait'))
          steps.push(this.#step(key, device, startStep('back-at-present')))
      }
    }
    if (action.kind === 'group-on') this.#cameOn.add(action.groupId)
    return this.#stop(key, title, reason, action, members, seconds, steps, null)
  }

  /** The sheet of the kind, and what the run wants before power. */
  #beforePower(key: string, device: Device): readonly WalkStep[] {
    const own = this.#deviceSteps(key, device, ['before-power'])
    const cautions = own.filter(({ step }) => step.kind === 'caution')
    const kind = kindFacts(device.kind, this.job.kinds)
    const sheet = kind.beforePower.map((say, index) =>
      this.#step(key, device, { id: `sheet-${index + 1}`, phase: 'before-power', kind: 'prepare', say }),
    )
    const sockets = kind.sockets
      .filter((socket) => socket.looksLikeNetwork && !socket.isNetwork)
      .map((socket, index) =>
        this.#step(key, device, {
          id: `socket-${index + 1}`,
          phase: 'before-power',
          kind: 'prepare',
          say: `No network cable in "${socket.name}": ${socket.use}.`,
        }),
      )
    return [...cautions, ...sheet, ...sockets, ...own.filter(({ step }) => step.kind !== 'caution')]
  }

  #setSteps(key: string, device: Device, action: Extract<BringUpAction, { kind: 'set' }>): readonly WalkStep[] {
    const phases: readonly Phase[] = action.pending ? ['set'] : ['set', 'effective']
    const to = { ...this.#fields(device), planned: formatIpv4(action.to.address), padded: padded(action.to) }
    const filling = action.parking ? { ...to, lastOctet: last(action.to) } : to
    const own = this.#identified(key, device, this.#deviceSteps(key, device, phases, filling))
    if (own.some(({ step }) => step.acts?.includes('writes'))) return own
    const say = `Set ${device.tag} to ${formatIpv4(action.to.address)}.`
    return [
      ...own,
      this.#step(key, device, {
        id: 'right-one',
        phase: 'set',
        kind: 'caution',
        say: `The next step writes to ${device.tag}. Make sure that it is this device.`,
        covers: ['writes'],
        protects: 'plant',
      }),
      this.#step(key, device, {
        id: 'set',
        phase: 'set',
        kind: 'set',
        say,
        type: [formatIpv4(action.to.address)],
        acts: ['writes'],
      }),
    ]
  }

  /** No address is set on a twin of which nobody knows which box it is. */
  #identified(key: string, device: Device, own: readonly WalkStep[]): readonly WalkStep[] {
    const here = this.given.devices.find((each) => each.id === device.id)?.present
    const twins = this.given.devices.some(
      (each) => each.id !== device.id && here && each.present?.address === here.address,
    )
    if (!twins || own.some(({ step }) => step.check === 'identified')) return own
    return [this.#step(key, device, { ...identifiedStep, say: `It is known which box ${device.tag} is.` }), ...own]
  }

  #fields(device: Device): StepFields {
    const present = presentOf(this.job, this.record, device)
    return fieldsOf(this.job, device, present, startUpOf(this.job, this.record, device))
  }

  #deviceSteps(
    key: string,
    device: Device,
    phases: readonly Phase[],
    fields = this.#fields(device),
  ): readonly WalkStep[] {
    const run = runOfDevice(this.job, this.record, device)
    return (run?.steps ?? [])
      .filter((step) => phases.includes(step.phase) && step.check !== 'units-behind')
      .map((step) => this.#step(key, device, filledStep(step, fields)))
  }

  #laptopSteps(key: string, laptop: HostAddress): readonly WalkStep[] {
    const subnet = formatSubnet(subnetOf(laptop.address, laptop.prefix))
    const address = formatIpv4(laptop.address)
    return [
      this.#step(key, null, {
        id: 'set',
        phase: 'set',
        kind: 'set',
        say: `This laptop’s wired adapter: ${address}/${laptop.prefix}. Its gateway stays blank.`,
        leaves: {
          what: `Laptop at ${address}/${laptop.prefix}`,
          putBack: 'Back to the address it had, or to automatic.',
        },
      }),
      this.#step(key, null, {
        id: 'seen',
        phase: 'verify',
        kind: 'check',
        check: 'laptop-in-subnet',
        say: `The laptop is in ${subnet}.`,
        otherwise: [
          {
            saw: 'It is not',
            likely: 'The address went to another adapter, or its link is down.',
            check: 'See the list of interfaces.',
          },
        ],
      }),
    ]
  }

  #step(stopKey: string, device: Device | null, step: RunStep): WalkStep {
    const key = `${stopKey} / ${device ? `${device.id} ` : ''}${step.id}`
    const kind = device && kindFacts(device.kind, this.job.kinds)
    const startUp = device ? startUpOf(this.job, this.record, device) : 0
    const lamps: readonly LampMeaning[] | undefined = step.kind === 'expect' ? (step.lamps ?? kind?.lamps) : undefined
    return {
      key,
      stopKey,
      deviceId: device?.id ?? null,
      step: lamps ? { ...step, lamps } : step,
      seconds: step.kind === 'wait' ? (step.seconds === 'start-up' ? startUp : (step.seconds ?? 0)) : 0,
      blocks: step.kind === 'caution' || step.protects !== undefined,
      record: this.#records.get(key),
    }
  }

  #stop(
    key: string,
    title: string,
    reason: string,
    action: BringUpAction | null,
    devices: readonly Device[],
    seconds: number,
    steps: readonly WalkStep[],
    laptop: HostAddress | null,
  ): Stop {
    const state = steps.every(isSettled) ? 'settled' : steps.some((step) => step.record) ? 'begun' : 'ahead'
    return {
      key,
      title,
      reason,
      action,
      deviceIds: devices.map((device) => device.id),
      seconds,
      steps,
      laptop,
      state,
      held: null,
    }
  }
}

/** The nearest device with an address that another is reached through; blank where there is none. */
function relayOf(job: Job, device: Device, walked: ReadonlySet<string>): string {
  const seen = new Set<string>()
  for (let id = device.behindId; id !== null && !seen.has(id);) {
    if (walked.has(id)) return id
    seen.add(id)
    id = job.devices.find((each) => each.id === id)?.behindId ?? null
  }
  return ''
}
