import type { Device } from '../../job'
import { kindFacts } from '../../kind'
import type { BringUpAction } from '../../sequence'
import { groupOf } from '../bringUpJobOf'
import { stopOf, type Making } from './making'
import type { Stop, WalkStep } from './model'
import { offStep, onStep, powerCaution, startStep } from './steps'

interface PowerParts {
  readonly key: string
  readonly action: Extract<BringUpAction, { groupId: string }>
  readonly title: string
  readonly reason: string
  /** Whether the group had power before in this order: its sheets are done then. */
  readonly hadPower: boolean
}

/** A breaker on or off, with everything that belongs before and after it. */
export function powerStop(making: Making, { key, action, title, reason, hadPower }: PowerParts): Stop {
  const { job, given } = making
  const members = job.devices.filter(
    (device) => groupOf(device) === action.groupId && given.devices.some((each) => each.id === device.id),
  )
  const seconds = given.groups.find((group) => group.id === action.groupId)?.seconds ?? 0
  const steps =
    action.kind === 'group-off'
      ? offSteps(making, key, action.groupId, members)
      : hadPower
        ? onAgainSteps(making, key, action.groupId, members)
        : firstOnSteps(making, key, action.groupId, members)
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

function firstOnSteps(making: Making, key: string, group: string, members: readonly Device[]): readonly WalkStep[] {
  const before = members.flatMap((device) => beforePower(making, key, device))
  const isCovered = before.some(({ step }) => step.covers?.includes('powers'))
  return [
    ...before,
    ...(isCovered ? [] : [making.step(key, null, powerCaution(group, namesOf(members)))]),
    making.step(key, null, onStep(group, namesOf(members))),
    ...members.flatMap((device) => {
      const own = making.deviceSteps(key, device, ['power'])
      const waits = own.some(({ step }) => step.kind === 'wait')
      return waits ? own : [...own, making.step(key, device, startStep('back-at-present'))]
    }),
  ]
}

/** The sheet of the kind, and what the run wants before power. */
function beforePower(making: Making, key: string, device: Device): readonly WalkStep[] {
  const own = making.deviceSteps(key, device, ['before-power'])
  const cautions = own.filter(({ step }) => step.kind === 'caution')
  const kind = kindFacts(device.kind, making.job.kinds)
  const prepare = (id: string, say: string) =>
    making.step(key, device, { id, phase: 'before-power', kind: 'prepare', say })
  const sheet = kind.beforePower.map((say, index) => prepare(`sheet-${index + 1}`, say))
  const sockets = kind.sockets
    .filter((socket) => socket.looksLikeNetwork && !socket.isNetwork)
    .map((socket, index) => prepare(`socket-${index + 1}`, `No network cable in "${socket.name}": ${socket.use}.`))
  return [...cautions, ...sheet, ...sockets, ...own.filter(({ step }) => step.kind !== 'caution')]
}
