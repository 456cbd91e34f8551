import type { CompiledJob } from './compile'

/**
 * How the plant and the laptop stand at one moment. Arrays by device: the spot in force (-1 none), the spot that is
 * entered but waits for power (-1 none), whether it was verified where it is now.
 */
export interface State {
  readonly at: Int16Array
  readonly pending: Int16Array
  readonly verified: Uint8Array
  readonly on: Uint8Array
  /** By device: 1 where its own network lead is out. */
  readonly out: Uint8Array
  /** Subnets the laptop is in, lowest first. */
  laptop: readonly number[]
  /** The device the laptop's cable is in; -1 at the switch. */
  cable: number
  /** The group that was put on with a clash among its own members, until that has ended; else -1. */
  clashing: number
}

export function startState(compiled: CompiledJob): State {
  const { devices, job } = compiled
  return {
    at: Int16Array.from(devices, (device) => device.present),
    pending: Int16Array.from(devices, (device) =>
      device.lease && device.present !== device.target ? device.target : device.pending,
    ),
    // What is not in the order is not looked for.
    verified: Uint8Array.from(devices, ({ frozen, verified, present, target }) =>
      frozen || (verified && present === target) ? 1 : 0,
    ),
    on: Uint8Array.from(job.groups, (group) => (group.live ? 1 : 0)),
    out: Uint8Array.from(job.devices, (device) => (device.leadPulled ? 1 : 0)),
    laptop: compiled.laptopStart,
    cable: -1,
    clashing: -1,
  }
}

export function copyOf(state: State): State {
  return {
    at: state.at.slice(),
    pending: state.pending.slice(),
    verified: state.verified.slice(),
    on: state.on.slice(),
    out: state.out.slice(),
    laptop: state.laptop,
    cable: state.cable,
    clashing: state.clashing,
  }
}

export const isLive = (compiled: CompiledJob, state: State, device: number): boolean =>
  state.on[compiled.devices[device]?.group ?? -1] === 1

/** Live, its lead in, and not alone on the laptop's cable. */
export const isOnSwitch = (compiled: CompiledJob, state: State, device: number): boolean =>
  state.cable !== device && state.out[device] !== 1 && isLive(compiled, state, device)

/** The address of a spot, as a small number; -1 for none. Masks do not count. */
export const addressAt = (compiled: CompiledJob, spot: number): number =>
  spot < 0 ? -1 : (compiled.addressOf[spot] ?? -1)

/** Whether another device on the switch holds the same address in force. */
export function clashes(compiled: CompiledJob, state: State, device: number): boolean {
  if (!isOnSwitch(compiled, state, device)) return false
  const address = addressAt(compiled, state.at[device] ?? -1)
  return address >= 0 && holderOf(compiled, state, address, device) >= 0
}

/** Another device on the switch that holds this address in force; -1 when nobody does. */
export function holderOf(compiled: CompiledJob, state: State, address: number, except: number): number {
  const { addressOf } = compiled
  const { at } = state
  for (let other = 0; other < at.length; other += 1) {
    const spot = at[other] as number
    if (spot < 0 || addressOf[spot] !== address || other === except) continue
    if (isOnSwitch(compiled, state, other)) return other
  }
  return -1
}

/** Whether the laptop hears a device: over the switch, or on a cable straight in its port. */
export const isHeard = (compiled: CompiledJob, state: State, device: number): boolean =>
  isLive(compiled, state, device) && (state.cable === device || (state.cable === -1 && state.out[device] !== 1))

/** All that is in the order is live, on the switch again and found at its target. */
export function isDone({ devices, switched }: CompiledJob, state: State): boolean {
  if (state.clashing !== -1 || state.cable !== -1 || state.verified.includes(0)) return false
  for (let group = 0; group < switched.length; group += 1) if (switched[group] && state.on[group] === 0) return false
  for (let device = 0; device < devices.length; device += 1)
    if (state.out[device] === 1 && !devices[device]?.frozen) return false
  return true
}

/**
 * How one device stands, as three characters. Of devices that are alike, the target of one stands for the target of
 * each.
 */
export function codeOf(compiled: CompiledJob, state: State, device: number): string {
  const { group, target, likeness } = compiled.devices[device] ?? { group: -1, target: -1, likeness: -1 }
  const at = state.at[device] ?? -1
  const pending = state.pending[device] ?? -1
  const flags =
    (state.verified[device] ?? 0) +
    2 * (state.on[group] ?? 0) +
    (state.cable === device ? 4 : 0) +
    8 * (state.out[device] ?? 0)
  if (likeness < 0) return String.fromCharCode(at + 1, pending + 1, flags)
  return String.fromCharCode(at === target ? OWN : at + 1, pending === target ? OWN : pending + 1, flags)
}

const OWN = 0xfffe

/** One text for states from which the same can be reached at the same cost: devices that are alike may be exchanged. */
export function keyOf(compiled: CompiledJob, state: State): string {
  let codes = ''
  const alike: string[][] = []
  compiled.devices.forEach(({ likeness }, device) => {
    const code = codeOf(compiled, state, device)
    if (likeness < 0) codes += code
    else (alike[likeness] ??= []).push(code)
  })
  for (const group of alike) if (group) codes += group.sort().join('')
  const groups = compiled.members.some((members) => members.length === 0) ? String.fromCharCode(...state.on) : ''
  return `${codes}|${state.laptop.join(',')}|${state.clashing}${groups}`
}
