import { formatIpv4 } from '../../address'
import {
  addressAt,
  apply,
  compileJob,
  copyOf,
  isLegal,
  isOnSwitch,
  startState,
  type BringUpAction,
  type BringUpJob,
  type CompiledJob,
  type HostAddress,
  type State,
} from '../model'
import { moveOf } from '../translate'
import { listed } from './impossible'
import { subnetText, titleOf } from './titles'

/** What is done in an action, and why then, each in one line. */
export interface ActionWords {
  readonly title: string
  readonly reason: string
}

/** How things stand when an action is taken, and what comes after it. */
interface Moment {
  readonly compiled: CompiledJob
  readonly state: State
  readonly later: readonly BringUpAction[]
  /** Groups that were put on before in this order. */
  readonly wentOn: ReadonlySet<string>
  readonly nameOf: (deviceId: string) => string
}

/**
 * Words for every action of an order, each from the state it is taken in. What was done already stands in the job: it
 * is passed over.
 *
 * @param nameOf gives the tag of a device
 */
export function wordsOf(
  job: BringUpJob,
  actions: readonly BringUpAction[],
  nameOf: (deviceId: string) => string,
): readonly ActionWords[] {
  const compiled = compileJob(job)
  const state = startState(compiled)
  const wentOn = new Set<string>()
  return actions.map((action, index): ActionWords => {
    const moment = { compiled, state: copyOf(state), later: actions.slice(index + 1), wentOn: new Set(wentOn), nameOf }
    const move = moveOf(compiled, action)
    if (move && isLegal(compiled, state, move)) apply(compiled, state, move)
    if (action.kind === 'group-on') wentOn.add(action.groupId)
    return { title: titleOf(job, action, nameOf), reason: reasonOf(moment, action) }
  })
}

function reasonOf(moment: Moment, action: BringUpAction): string {
  const { compiled } = moment
  switch (action.kind) {
    case 'laptop':
      return laptopReason(moment, action.into)
    case 'cable':
      return action.into === 'switch'
        ? 'Every other device is heard there again.'
        : 'Alone on the cable it clashes with nobody.'
    case 'lead-out':
      return leadReason(moment, indexOf(compiled, action.deviceId))
    case 'lead-in':
      return 'Nobody else on the switch has its address now.'
    case 'set': {
      if (action.parking) return 'A spare address: its own is still held by another.'
      if (action.pending) return 'It counts after power off and on.'
      const access = compiled.job.devices[indexOf(compiled, action.deviceId)]?.access
      return access === 'local'
        ? 'At the device; where the laptop is does not matter.'
        : 'The laptop is in its subnet now.'
    }
    case 'verify':
      return 'At its planned address, in force.'
    case 'group-off':
      return offReason(moment, action.groupId)
    case 'group-on':
      return onReason(moment, action.groupId)
  }
}

const indexOf = (compiled: CompiledJob, deviceId: string) =>
  compiled.job.devices.findIndex((device) => device.id === deviceId)
const tag = ({ compiled, nameOf }: Moment, device: number) => nameOf(compiled.job.devices[device]?.id ?? '')
const tags = (moment: Moment, devices: readonly number[]) => listed(devices.map((device) => tag(moment, device)))

const membersOf = ({ compiled }: Moment, groupId: string): readonly number[] =>
  compiled.members[compiled.job.groups.findIndex((group) => group.id === groupId)] ?? []

/** What a device has in force once it has power. */
function comesUpAt({ compiled, state }: Moment, device: number): number {
  const pending = state.pending[device] ?? -1
  return addressAt(compiled, pending >= 0 ? pending : (state.at[device] ?? -1))
}

/** Others that stand, or come up, at the same address. */
const twinsOf = (moment: Moment, device: number): readonly number[] => {
  const address = comesUpAt(moment, device)
  if (address < 0) return []
  return moment.compiled.devices.flatMap((_, other) =>
    other !== device && comesUpAt(moment, other) === address ? [other] : [],
  )
}

function addressText({ compiled, state }: Moment, device: number): string {
  const spot = compiled.spots[state.at[device] ?? -1]
  return spot ? formatIpv4(spot.address) : ''
}

function laptopReason({ compiled, later, nameOf }: Moment, into: HostAddress): string {
  const until = later.findIndex((action) => action.kind === 'laptop')
  const here = until < 0 ? later : later.slice(0, until)
  const names = (kind: 'set' | 'verify') => [
    ...new Set(
      here.flatMap((action) => {
        if (action.kind !== kind) return []
        const access = compiled.job.devices[indexOf(compiled, action.deviceId)]?.access
        return action.kind === 'set' && access !== 'over-ip' ? [] : [nameOf(action.deviceId)]
      }),
    ),
  ]
  const few = (list: readonly string[]) => (list.length > 4 ? `${list.length} devices` : listed(list))
  const [set, seen] = [names('set'), names('verify')]
  const parts = [
    ...(set.length > 0 ? [`${few(set)} ${set.length === 1 ? 'is' : 'are'} set there`] : []),
    ...(seen.length > 0 ? [`${few(seen)} ${seen.length === 1 ? 'is' : 'are'} found again there`] : []),
  ]
  return parts.length > 0 ? `${parts.join(', ')}.` : `Into ${subnetText(into)}.`
}

/** With whom it would stand on one address. */
function leadReason(moment: Moment, device: number): string {
  const twins = twinsOf(moment, device)
  const { compiled, state } = moment
  const group = compiled.devices[device]?.group
  const heard = twins.filter((twin) => isOnSwitch(compiled, state, twin))
  const same = twins.filter((twin) => compiled.devices[twin]?.group === group && !state.out[twin])
  const [rival] = heard.length > 0 ? heard : same
  if (rival === undefined) return 'Off the switch it is heard by nobody and clashes with nobody.'
  const where = heard.length > 0 ? 'is on the switch with the same address' : 'comes on with it, at the same address'
  return `${tag(moment, rival)} ${where}, ${addressText(moment, device)}.`
}

function offReason(moment: Moment, groupId: string): string {
  const members = membersOf(moment, groupId)
  const waiting = members.filter((member) => (moment.state.pending[member] ?? -1) >= 0)
  const leased = waiting.filter((member) => moment.compiled.devices[member]?.lease)
  if (waiting.length > leased.length) return `What was set in ${tags(moment, waiting)} counts after power off and on.`
  if (leased.length > 0) return `${tags(moment, leased)} takes its reserved address when it comes back.`
  return 'Its address is needed by another for a moment.'
}

/** Who takes what was set, names the twin that has to stay off, or had to be moved first. */
function onReason(moment: Moment, groupId: string): string {
  const { compiled, state } = moment
  const members = membersOf(moment, groupId)
  const waiting = members.filter((member) => (state.pending[member] ?? -1) >= 0)
  if (waiting.length > 0) return `${tags(moment, waiting)} ${waiting.length === 1 ? 'takes' : 'take'} what was set.`
  for (const member of members.filter((each) => !state.out[each])) {
    const twins = twinsOf(moment, member)
    const out = twins.filter((twin) => state.out[twin])
    if (out.length > 0)
      return `The network lead of ${tags(moment, out)} is out, so ${tag(moment, member)} is alone at ${addressText(moment, member)}.`
    const off = twins.filter((twin) => !isOnSwitch(compiled, state, twin) && !members.includes(twin))
    if (off.length > 0) {
      const names =
        off.length > 2 ? `${off.length} others stay` : `${tags(moment, off)} ${off.length === 1 ? 'stays' : 'stay'}`
      return `${names} unpowered: ${off.length === 1 ? 'it has' : 'they have'} the same factory address as ${tag(moment, member)}.`
    }
    const inner = twins.filter((twin) => members.includes(twin))
    if (inner.length > 0)
      return `${tags(moment, [member, ...inner])} share an address until one is set at its keypad or switches.`
    const moved = movedAway(moment, member)
    if (moved !== undefined)
      return `${tag(moment, moved)} has left ${addressText(moment, member)}, so ${tag(moment, member)} may have it now.`
  }
  if (moment.wentOn.has(groupId)) return 'Nothing stands in its way any more.'
  return members.length > 1 ? `${tags(moment, members)} come on together.` : 'Its address is nobody else’s.'
}

/** Another that had this device’s address at the start and has another now. */
function movedAway(moment: Moment, device: number): number | undefined {
  const { compiled, state } = moment
  const address = comesUpAt(moment, device)
  if (address < 0) return undefined
  const moved = compiled.devices.flatMap(({ present }, other) => {
    const left = addressAt(compiled, present) === address && addressAt(compiled, state.at[other] ?? -1) !== address
    return other !== device && left ? [other] : []
  })
  return moved.at(-1)
}
