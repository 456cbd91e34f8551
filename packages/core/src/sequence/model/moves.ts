import { hasFreeHost, type CompiledJob } from './compile'
import { addressAt, clashes, copyOf, holderOf, isHeard, isLive, isOnSwitch, type State } from './state'

/** One action in numbers. `to` is a spot, `subnet` and `leaves` are subnets, -1 where there is none. */
export type Move =
  | { readonly kind: 'laptop'; readonly subnet: number; readonly leaves: number }
  | { readonly kind: 'group-on' | 'group-off'; readonly group: number }
  | { readonly kind: 'cable'; readonly device: number }
  | { readonly kind: 'lead-out' | 'lead-in'; readonly device: number }
  | { readonly kind: 'set'; readonly device: number; readonly to: number }
  | { readonly kind: 'verify'; readonly device: number }

export function costOf(compiled: CompiledJob, move: Move): number {
  const { weight } = compiled
  switch (move.kind) {
    case 'laptop':
      return weight.laptop
    case 'cable':
      return weight.cable
    case 'lead-out':
    case 'lead-in':
      return weight.lead
    case 'set':
      return weight.set[move.device] ?? 0
    case 'verify':
      return 0
    default:
      return weight.group[move.group] ?? 0
  }
}

/** Whether a move may be made now: the rules of the model, all of them and no more. */
export function isLegal(compiled: CompiledJob, state: State, move: Move): boolean {
  switch (move.kind) {
    case 'laptop':
      return state.clashing === -1 && mayPutLaptop(compiled, state, move.subnet, move.leaves)
    case 'group-on':
      return state.clashing === -1 && mayPutOn(compiled, state, move.group)
    case 'group-off':
      return mayTakeOff(compiled, state, move.group)
    case 'cable':
      return state.clashing === -1 && mayMoveCable(compiled, state, move.device)
    case 'lead-out':
    case 'lead-in':
      return state.clashing === -1 && mayMoveLead(compiled, state, move.device, move.kind === 'lead-out')
    case 'set':
      return maySet(compiled, state, move.device, move.to)
    case 'verify':
      return mayVerify(compiled, state, move.device)
  }
}

/** The state after a move. The move must be legal. */
export function after(compiled: CompiledJob, before: State, move: Move): State {
  const state = copyOf(before)
  apply(compiled, state, move)
  return state
}

/** Makes a move in place. */
export function apply(compiled: CompiledJob, state: State, move: Move): void {
  switch (move.kind) {
    case 'laptop':
      state.laptop = [...state.laptop.filter((subnet) => subnet !== move.leaves), move.subnet].sort((a, b) => a - b)
      return
    case 'group-off':
      state.on[move.group] = 0
      if (state.clashing === move.group) state.clashing = -1
      return
    case 'group-on':
      state.on[move.group] = 1
      for (const member of compiled.members[move.group] ?? []) {
        const pending = state.pending[member] ?? -1
        if (pending < 0) continue
        moveTo(compiled, state, member, pending)
      }
      if (hasInnerClash(compiled, state, move.group)) state.clashing = move.group
      return
    case 'cable':
      // Going straight into a device takes its lead out; coming back from one puts its lead in.
      if (state.cable >= 0) state.out[state.cable] = 0
      if (move.device >= 0) state.out[move.device] = 0
      state.cable = move.device
      return
    case 'lead-out':
      state.out[move.device] = 1
      return
    case 'lead-in':
      state.out[move.device] = 0
      return
    case 'set':
      if (compiled.devices[move.device]?.cycles) state.pending[move.device] = move.to
      else moveTo(compiled, state, move.device, move.to)
      if (state.clashing >= 0 && !hasInnerClash(compiled, state, state.clashing)) state.clashing = -1
      return
    case 'verify':
      state.verified[move.device] = 1
  }
}

function moveTo({ devices }: CompiledJob, state: State, device: number, spot: number): void {
  if (state.at[device] !== spot && !devices[device]?.frozen) state.verified[device] = 0
  state.at[device] = spot
  state.pending[device] = -1
}

function hasInnerClash(compiled: CompiledJob, state: State, group: number): boolean {
  const members = compiled.members[group] ?? []
  const seen = new Set<number>()
  for (const member of members) {
    if (!isOnSwitch(compiled, state, member)) continue
    const address = addressAt(compiled, state.at[member] ?? -1)
    if (address < 0) continue
    if (seen.has(address)) return true
    seen.add(address)
  }
  return false
}

function mayPutLaptop(compiled: CompiledJob, state: State, subnet: number, leaves: number): boolean {
  if (state.laptop.includes(subnet)) return false
  const left = state.laptop.filter((each) => each !== leaves).length
  if (left + 1 > compiled.job.laptop.holds || (leaves >= 0 && !state.laptop.includes(leaves))) return false
  if (compiled.roomy[subnet]) return true
  // Fewer hold something there than there are hosts: no need to see which.
  let holders = 0
  for (const spots of [state.at, state.pending])
    for (const spot of spots) if (spot >= 0 && compiled.spots[spot]?.subnet === subnet) holders += 1
  if (holders < (compiled.spare[subnet] ?? 0)) return true
  const held = new Set<number>()
  for (const spots of [state.at, state.pending]) for (const spot of spots) held.add(compiled.spots[spot]?.address ?? -1)
  return hasFreeHost(compiled, subnet, held)
}

/** What a member will have in force when its group is put on. */
const comesUpAt = (state: State, device: number): number =>
  (state.pending[device] ?? -1) >= 0 ? (state.pending[device] ?? -1) : (state.at[device] ?? -1)

function mayPutOn(compiled: CompiledJob, state: State, group: number): boolean {
  if (state.on[group] !== 0 || !compiled.switched[group]) return false
  const members = (compiled.members[group] ?? []).filter((member) => state.cable !== member && !state.out[member])
  // Of two with one address that cannot be set at their own keypad none ends the clash; nor is one begun with what is not in the order.
  const standing = new Map<number, { members: number; fixed: number; frozen: number }>()
  for (const member of members) {
    const address = addressAt(compiled, comesUpAt(state, member))
    if (address < 0) continue
    if (holderOf(compiled, state, address, member) >= 0) return false
    const device = compiled.devices[member]
    const here = standing.get(address) ?? { members: 0, fixed: 0, frozen: 0 }
    here.members += 1
    if (device?.frozen) here.frozen += 1
    if (!device?.local || !device.reachesTarget) here.fixed += 1
    standing.set(address, here)
  }
  return ![...standing.values()].some(({ members: all, fixed, frozen }) => fixed > 1 || (frozen > 0 && all > 1))
}

function mayTakeOff(compiled: CompiledJob, state: State, group: number): boolean {
  if (state.on[group] !== 1 || !compiled.switched[group] || compiled.job.groups[group]?.mustStayLive) return false
  // A clash inside a group that was just put on is ended by settings at its members; taking it off comes after one.
  if (state.clashing === -1) return true
  return (
    state.clashing === group && (compiled.members[group] ?? []).some((member) => (state.pending[member] ?? -1) >= 0)
  )
}

function mayMoveCable(compiled: CompiledJob, state: State, device: number): boolean {
  if (state.cable === device) return false
  const into = compiled.devices[device]
  if (into && (into.frozen || compiled.job.groups[into.group]?.chained)) return false
  // The device that comes back to the switch must not meet its own address there.
  const back = state.cable
  if (back < 0 || !isLive(compiled, state, back)) return true
  const address = addressAt(compiled, state.at[back] ?? -1)
  return address < 0 || holderOf(compiled, { ...state, cable: device }, address, back) < 0
}

function mayMoveLead(compiled: CompiledJob, state: State, device: number, out: boolean): boolean {
  const facts = compiled.devices[device]
  if (!facts || facts.frozen || compiled.job.groups[facts.group]?.chained || state.cable === device) return false
  if ((state.out[device] === 1) === out) return false
  if (out || !isLive(compiled, state, device)) return true
  const address = addressAt(compiled, state.at[device] ?? -1)
  return address < 0 || holderOf(compiled, state, address, device) < 0
}

function maySet(compiled: CompiledJob, state: State, device: number, to: number): boolean {
  const facts = compiled.devices[device]
  if (!facts || facts.frozen || facts.lease || !isLive(compiled, state, device)) return false
  if (state.clashing >= 0 && (facts.group !== state.clashing || !facts.local)) return false
  const now = state.at[device] ?? -1
  if (!facts.local) {
    if (now < 0 || !isHeard(compiled, state, device)) return false
    if (!state.laptop.includes(compiled.spots[now]?.subnet ?? -1)) return false
    if (clashes(compiled, state, device)) return false
  }
  if (facts.cycles || !isOnSwitch(compiled, state, device)) return true
  return holderOf(compiled, state, addressAt(compiled, to), device) < 0
}

function mayVerify(compiled: CompiledJob, state: State, device: number): boolean {
  const facts = compiled.devices[device]
  if (!facts || state.verified[device] || state.at[device] !== facts.target || state.clashing >= 0) return false
  if (!isHeard(compiled, state, device)) return false
  return state.laptop.includes(compiled.spots[facts.target]?.subnet ?? -1) && !clashes(compiled, state, device)
}
