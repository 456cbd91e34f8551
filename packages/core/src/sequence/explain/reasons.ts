import { formatIpv4 } from '../../address'
import {
  addressAt,
  apply,
  compileJob,
  copyOf,
  holderOf,
  isLegal,
  isLive,
  isOnSwitch,
  startState,
  type BringUpAction,
  type BringUpJob,
  type CompiledJob,
  type HostAddress,
  type State,
} from '../model'
import { moveOf } from '../translate'
import { listed } from './names'
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
  return actions.map((action, index): ActionWords => {
    const moment = { compiled, state: copyOf(state), later: actions.slice(index + 1), nameOf }
    const move = moveOf(compiled, action)
    if (move && isLegal(compiled, state, move)) apply(compiled, state, move)
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
        ? 'Straight in a device the laptop hears that one only.'
        : 'Alone on the cable it clashes with nobody.'
    case 'lead-out':
      return leadReason(moment, indexOf(compiled, action.deviceId))
    case 'lead-in':
      return 'Nobody else on the switch has its address now.'
    case 'set': {
      if (action.parking) return parkingReason(moment, indexOf(compiled, action.deviceId))
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

/** The address that a device has, or takes with power. */
function comesUpText({ compiled, state }: Moment, device: number): string {
  const pending = state.pending[device] ?? -1
  const spot = compiled.spots[pending >= 0 ? pending : (state.at[device] ?? -1)]
  return spot ? formatIpv4(spot.address) : ''
}

/** Who is set, or found again, in a subnet while the laptop is in it. */
function laptopReason(moment: Moment, into: HostAddress): string {
  const { compiled, later, nameOf } = moment
  const subnet = compiled.subnets.findIndex(
    ({ base, prefix }) => subnetText({ address: base, prefix }) === subnetText(into),
  )
  const state = copyOf(moment.state)
  const names = { set: new Set<string>(), verify: new Set<string>() }
  for (const action of later) {
    if (action.kind === 'laptop' && action.leaves && subnetText(action.leaves) === subnetText(into)) break
    if (action.kind === 'set' || action.kind === 'verify') {
      const device = indexOf(compiled, action.deviceId)
      const isHere = compiled.spots[state.at[device] ?? -1]?.subnet === subnet
      const asks = action.kind === 'verify' || compiled.job.devices[device]?.access === 'over-ip'
      if (isHere && asks) names[action.kind].add(nameOf(action.deviceId))
    }
    const move = moveOf(compiled, action)
    if (move) apply(compiled, state, move)
  }
  const few = (list: readonly string[]) => (list.length > 4 ? `${list.length} devices` : listed(list))
  const [set, seen] = [[...names.set], [...names.verify]]
  const parts = [
    ...(set.length > 0 ? [`${few(set)} ${set.length === 1 ? 'is' : 'are'} set there`] : []),
    ...(seen.length > 0 ? [`${few(seen)} ${seen.length === 1 ? 'is' : 'are'} found again there`] : []),
  ]
  return parts.length > 0 ? `${parts.join(', ')}.` : `Into ${subnetText(into)}.`
}

/** Whose way a device is parked out of: of who holds its planned address, or of who is to have the one it has. */
function parkingReason(moment: Moment, device: number): string {
  const { compiled, state } = moment
  const wanted = addressAt(compiled, compiled.devices[device]?.target ?? -1)
  const holder = holderOf(compiled, state, wanted, device)
  if (holder >= 0) return `A spare address: ${tag(moment, holder)} still holds its planned one.`
  const next = comesTo(moment, new Set([addressAt(compiled, state.at[device] ?? -1)]), new Set([device]))
  return next === undefined
    ? 'A spare address for the time being.'
    : `A spare address: ${tag(moment, next)} needs the one it has.`
}

/** The first device of those that are not meant which comes to one of some addresses later in the order. */
function comesTo(
  { compiled, state, later }: Moment,
  addresses: ReadonlySet<number>,
  but: ReadonlySet<number>,
): number | undefined {
  const now = copyOf(state)
  const isThere = (device: number) =>
    isOnSwitch(compiled, now, device) && addresses.has(addressAt(compiled, now.at[device] ?? -1))
  for (const action of later) {
    const before = compiled.devices.map((_, device) => isThere(device))
    const move = moveOf(compiled, action)
    if (move) apply(compiled, now, move)
    const come = compiled.devices.findIndex((_, device) => !but.has(device) && isThere(device) && !before[device])
    if (come >= 0) return come
  }
  return undefined
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
  return `${tag(moment, rival)} ${where}, ${comesUpText(moment, device)}.`
}

function offReason(moment: Moment, groupId: string): string {
  const members = membersOf(moment, groupId)
  const waiting = members.filter((member) => (moment.state.pending[member] ?? -1) >= 0)
  const leased = waiting.filter((member) => moment.compiled.devices[member]?.lease)
  if (waiting.length > leased.length) return `What was set in ${tags(moment, waiting)} counts after power off and on.`
  if (leased.length > 0) return `${tags(moment, leased)} takes its reserved address when it comes back.`
  const addresses = new Set(
    members
      .filter((member) => isOnSwitch(moment.compiled, moment.state, member))
      .map((member) => addressAt(moment.compiled, moment.state.at[member] ?? -1)),
  )
  addresses.delete(-1)
  for (const address of addresses) {
    const twin = members
      .map((member) => holderOf(moment.compiled, moment.state, address, member))
      .find((other) => other >= 0 && !members.includes(other))
    if (twin !== undefined) return `${tag(moment, twin)} is live at the same address.`
  }
  const next = comesTo(moment, addresses, new Set(members))
  return next === undefined ? 'It comes on again later.' : `${tag(moment, next)} needs its address for a while.`
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
    const off = twins.filter((twin) => !isLive(compiled, state, twin) && !members.includes(twin))
    if (off.length > 0) {
      const names =
        off.length > 2 ? `${off.length} others stay` : `${tags(moment, off)} ${off.length === 1 ? 'stays' : 'stay'}`
      return `${names} unpowered: ${off.length === 1 ? 'it has' : 'they have'} the same address as ${tag(moment, member)}, ${addressText(moment, member)}.`
    }
    const inner = twins.filter((twin) => members.includes(twin))
    if (inner.length > 0)
      return `${tags(moment, [member, ...inner])} share an address until one is set at its keypad or switches.`
    const moved = movedAway(moment, member)
    if (moved !== undefined)
      return `${tag(moment, moved)} has left ${addressText(moment, member)}, so ${tag(moment, member)} may have it now.`
  }
  if (members.every((member) => comesUpAt(moment, member) < 0)) return 'There is no address yet that could clash.'
  return members.length > 1
    ? `${tags(moment, members)} come on together; nobody else on the switch has their addresses now.`
    : 'Nobody else on the switch has its address now.'
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
