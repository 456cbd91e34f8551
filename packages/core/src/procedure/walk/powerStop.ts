import type { Device } from '../../job'
import { kindFacts } from '../../kind'
import type { BringUpAction } from '../../sequence'
import { breakerOf, groupOf } from '../breaker'
import { isGroupLive } from '../present'
import { heldActions } from '../wholePlant'
import type { RunStep } from '../run'
import { stopOf, type Making } from './making'
import type { Stop, WalkStep } from './model'
import { saidOnce, type OfDevice } from './saidOnce'
import { withoutAddress } from './withoutAddress'
import { offStep, onStep, powerCaution, startStep } from './steps'

interface PowerParts {
  readonly key: string
  readonly action: Extract<BringUpAction, { groupId: string }>
  readonly title: string
  readonly reason: string
  /** Whether the group had power before in this order: its sheets are done then. */
  readonly hadPower: boolean
}

/**
 * A breaker that no device with an address hangs on, so that it is not in the order: what comes before and with power of
 * those that hang on it. Where it has power already it is not put on again; their sheets are looked at all the same.
 */
export function powerStopBeside(making: Making, breaker: string, behind: readonly Device[]): Stop {
  const { job, record, given } = making
  const key = `power ${breaker}`
  const wasLive =
    isGroupLive(job, record, breaker) && !record.steps.some(({ stepKey }) => stepKey.startsWith(`${key} / `))
  const names = namesOf(behind)
  const all = firstOnSteps(making, key, breaker, [], behind)
  const isPower = ({ step }: WalkStep) => step.id === 'power-caution' || step.id === 'on'
  const stop = stopOf({
    key,
    title: wasLive ? `Before work on ${breaker}: ${names}` : `Put ${breaker} on: ${names}`,
    reason: wasLive ? 'It has power already.' : 'Nothing with an address of its own hangs on it.',
    devices: behind,
    seconds: 0,
    steps: wasLive ? all.filter((step) => !isPower(step)) : all,
  })
  if (stop.state === 'settled' || wasLive) return stop
  // Somebody who is left out of the order may hang on it as well.
  return { ...stop, held: heldActions(given, [{ kind: 'group-on', groupId: breaker }]).get(0) ?? null }
}

/** A breaker on or off, with everything that belongs before and after it. */
export function powerStop(making: Making, { key, action, title, reason, hadPower }: PowerParts): Stop {
  const { job, given } = making
  const members = job.devices.filter((device) => groupOf(device) === action.groupId && making.walked.has(device.id))
  const behind = withoutAddress(making).filter((device) => breakerOf(job, device) === action.groupId)
  const seconds = given.groups.find((group) => group.id === action.groupId)?.seconds ?? 0
  const steps =
    action.kind === 'group-off'
      ? offSteps(making, key, action.groupId, members)
      : hadPower
        ? onAgainSteps(making, key, action.groupId, members)
        : firstOnSteps(making, key, action.groupId, members, behind)
  return stopOf({ key, title, reason, action, devices: members, seconds, steps })
}

const namesOf = (members: readonly Device[]) => members.map((device) => device.tag).join(', ')

const offSteps = (making: Making, key: string, group: string, members: readonly Device[]): readonly WalkStep[] => [
  making.step(key, null, offStep(group, namesOf(members))),
  ...members.flatMap((device) =>
    making.deviceSteps(key, device, ['effective']).filter(({ step }) => step.kind === 'expect'),
  ),
]

const onAgainSteps = (making: Making, key: string, group: string, members: readonly Device[]): readonly WalkStep[] => [
  making.step(key, null, powerCaution(group, namesOf(members))),
  making.step(key, null, onStep(group, namesOf(members))),
  ...members.map((device) => making.step(key, device, startStep('back-at-planned'))),
]

/**
 * Before power: what is the same for several devices is said once, cautions first. Devices without an address of their
 * own get power by the same breaker: their switches, jumpers and sockets come before it as well.
 */
function firstOnSteps(
  making: Making,
  key: string,
  group: string,
  members: readonly Device[],
  behind: readonly Device[],
): readonly WalkStep[] {
  const all = [...members, ...behind]
  const before = all.flatMap((device) => beforePower(making, device))
  const isCaution = ({ step }: OfDevice) => step.kind === 'caution'
  const cautions = saidOnce(making, key, before.filter(isCaution))
  const isCovered = cautions.some(({ step }) => step.covers?.includes('powers'))
  const names = namesOf(all)
  const after = [
    ...members.flatMap((device): readonly OfDevice[] => {
      const own = making.rawSteps(device, ['power']).map((step) => ({ device, step }))
      const waits = own.some(({ step }) => step.kind === 'wait')
      return waits ? own : [...own, { device, step: startStep('back-at-present') }]
    }),
    ...behind.flatMap((device) => making.rawSteps(device, ['power']).map((step) => ({ device, step }))),
  ]
  return [
    ...cautions,
    ...(isCovered ? [] : [making.step(key, null, powerCaution(group, names))]),
    ...saidOnce(
      making,
      key,
      before.filter((each) => !isCaution(each)),
    ),
    members.length > 0
      ? making.step(key, null, onStep(group, names))
      : making.step(key, behind[0] ?? null, { ...onStep(group, names), becomes: 'live' }),
    ...saidOnce(making, key, after),
  ]
}

/** The sheet of the kind, and what the run wants before power. */
function beforePower(making: Making, device: Device): readonly OfDevice[] {
  const own = making.rawSteps(device, ['before-power'])
  const kind = kindFacts(device.kind, making.job.kinds)
  const prepare = (id: string, say: string): RunStep => ({ id, phase: 'before-power', kind: 'prepare', say })
  const sheet = kind.beforePower.map((say, index) => prepare(`sheet-${index + 1}`, say))
  const measured = (kind.measuredBefore ?? []).map((say, index): RunStep => ({
    id: `measured-${index + 1}`,
    phase: 'before-power',
    kind: 'record',
    record: 'measured',
    protects: 'people',
    say: `Measure: ${say.slice(0, 1).toLowerCase()}${say.slice(1)}.`,
  }))
  const sockets = kind.sockets
    .filter((socket) => socket.looksLikeNetwork && !socket.isNetwork)
    .map((socket, index) => prepare(`socket-${index + 1}`, `No network cable in "${socket.name}": ${socket.use}.`))
  return [...sheet, ...measured, ...sockets, ...own].map((step) => ({ device, step }))
}
