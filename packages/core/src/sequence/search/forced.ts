import { addressAt, apply, type CompiledJob, isLegal, isLive, type Move, type State } from '../model'

/**
 * Moves that can only help: they have to be made anyway, cost the same at any time, and take nothing from anybody.
 * Making them at once keeps the search small without losing a best plan:
 *
 * - verifying costs nothing;
 * - setting a device to a target that nobody else holds, may come to hold or wants: the last setting of the device,
 *   whenever a plan makes it, can be made now instead;
 * - putting on a group whose addresses nobody else holds or wants;
 * - taking off and on a group whose members all have their target waiting for just that;
 * - putting in the lead of a device at a target that is nobody else's concern.
 */
export function makeForced(compiled: CompiledJob, state: State, made: Move[]): void {
  const concerns = new Concerns(compiled, state)
  const make = (move: Move) => {
    apply(compiled, state, move)
    made.push(move)
    if (move.kind === 'set') concerns.renew(move.device)
    else if (move.kind === 'group-on') for (const member of compiled.members[move.group] ?? []) concerns.renew(member)
  }
  for (let changed = true; changed;) {
    changed = false
    for (let device = 0; device < compiled.devices.length; device += 1) {
      const move = forcedOf(compiled, state, device, concerns)
      if (!move) continue
      make(move)
      changed = true
    }
    if (changed || state.clashing >= 0) continue
    for (let group = 0; group < compiled.members.length; group += 1) {
      if (!compiled.switched[group]) continue
      if (state.on[group] === 1) {
        if (!compiled.cuts.has('cycle') || !isReadyToCycle(compiled, state, group, concerns)) continue
        make({ kind: 'group-off', group })
        make({ kind: 'group-on', group })
        changed = true
      } else if (compiled.cuts.has('on') && comesUpAlone(compiled, state, group, concerns)) {
        make({ kind: 'group-on', group })
        changed = true
      }
    }
  }
}

function forcedOf(compiled: CompiledJob, state: State, device: number, concerns: Concerns): Move | undefined {
  const facts = compiled.devices[device]
  if (!facts || facts.frozen || !isLive(compiled, state, device)) return undefined
  if (state.out[device] && state.at[device] === facts.target && isPluggedAtOnce(compiled, state, device, concerns))
    return { kind: 'lead-in', device }
  if (state.verified[device]) return undefined
  if (state.at[device] === facts.target) {
    if (!compiled.cuts.has('verify')) return undefined
    const verify: Move = { kind: 'verify', device }
    return isLegal(compiled, state, verify) ? verify : undefined
  }
  if (!compiled.cuts.has('set') || facts.lease || !facts.reachesTarget || state.pending[device] === facts.target)
    return undefined
  if (!concerns.isOnlyFor(addressAt(compiled, facts.target), device)) return undefined
  const set: Move = { kind: 'set', device, to: facts.target }
  return isLegal(compiled, state, set) ? set : undefined
}

/** Where the straight cable costs less than a lead, its coming back may be the cheaper way to put the lead in. */
function isPluggedAtOnce(compiled: CompiledJob, state: State, device: number, concerns: Concerns): boolean {
  const { cuts, weight } = compiled
  const address = addressAt(compiled, state.at[device] ?? -1)
  return (
    cuts.has('lead') &&
    weight.lead <= weight.cable &&
    concerns.isOnlyFor(address, device) &&
    isLegal(compiled, state, { kind: 'lead-in', device })
  )
}

/** Spots that a device holds, has waiting or is to have. What is not in the order never comes to its target by itself. */
export function placesOf(compiled: CompiledJob, state: State, device: number): readonly number[] {
  const held = [state.at[device] ?? -1, state.pending[device] ?? -1]
  const facts = compiled.devices[device]
  return !facts || facts.frozen ? held : [...held, facts.target]
}

/** By address, how many devices hold it, have it waiting, or want it. */
class Concerns {
  readonly #counts: Int16Array
  readonly #own: (readonly number[])[]

  constructor(
    readonly compiled: CompiledJob,
    readonly state: State,
  ) {
    this.#counts = new Int16Array(compiled.spots.length)
    this.#own = compiled.devices.map(() => [])
    for (let device = 0; device < compiled.devices.length; device += 1) this.renew(device)
  }

  /** Counts a device anew, after something of it changed. */
  renew(device: number): void {
    const { compiled, state } = this
    for (const address of this.#own[device] ?? []) this.#counts[address] = (this.#counts[address] ?? 0) - 1
    const own: number[] = []
    for (const spot of placesOf(compiled, state, device)) {
      const address = addressAt(compiled, spot)
      if (address >= 0 && !own.includes(address)) own.push(address)
    }
    for (const address of own) this.#counts[address] = (this.#counts[address] ?? 0) + 1
    this.#own[device] = own
  }

  /** Whether no other device holds this address, has it waiting, or wants it. */
  isOnlyFor(address: number, device: number): boolean {
    return (this.#counts[address] ?? 0) === (this.#own[device]?.includes(address) ? 1 : 0)
  }
}

/** Whether everything in a group comes up at an address that is nobody else's concern. */
function comesUpAlone(compiled: CompiledJob, state: State, group: number, concerns: Concerns): boolean {
  return (compiled.members[group] ?? []).every((member) => {
    const waiting = state.pending[member] ?? -1
    const address = addressAt(compiled, waiting >= 0 ? waiting : (state.at[member] ?? -1))
    return address < 0 || concerns.isOnlyFor(address, member)
  })
}

const NOBODY = { cycles: false, lease: false, target: -1, frozen: true }

function isReadyToCycle(compiled: CompiledJob, state: State, group: number, concerns: Concerns): boolean {
  if (compiled.job.groups[group]?.mustStayLive) return false
  const members = compiled.members[group] ?? []
  let waits = false
  for (const member of members) {
    const { cycles, lease, target, frozen } = compiled.devices[member] ?? NOBODY
    if (frozen) continue
    if (state.pending[member] === target) waits = true
    else if ((cycles || lease) && state.at[member] !== target) return false
  }
  return waits && comesUpAlone(compiled, state, group, concerns)
}

/**
 * Devices that may get in each other's way: they hold, have waiting or want the same address, or share a group with
 * one that does.
 */
export function troubledDevices(compiled: CompiledJob, state: State): Uint8Array {
  const byAddress = new Map<number, number>()
  const troubled = new Uint8Array(compiled.devices.length)
  const concern = (spot: number, device: number) => {
    const address = addressAt(compiled, spot)
    if (address < 0) return
    const first = byAddress.get(address)
    if (first === undefined) byAddress.set(address, device)
    else if (first !== device) troubled[first] = troubled[device] = 1
  }
  compiled.devices.forEach((_, device) => {
    for (const spot of placesOf(compiled, state, device)) concern(spot, device)
  })
  for (const members of compiled.members)
    if (members.some((member) => troubled[member])) for (const member of members) troubled[member] = 1
  return troubled
}
