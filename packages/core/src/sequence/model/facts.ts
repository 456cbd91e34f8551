import type { CompiledJob } from './compile'
import { apply, type Move } from './moves'
import { addressAt, copyOf, isOnSwitch, type State } from './state'

/** What one move stands on and what it changes, as things stand when its turn comes. All in numbers of the compiled job. */
export interface Facts {
  readonly kind: Move['kind']
  readonly groups: readonly number[]
  readonly devices: readonly number[]
  readonly power: boolean
  readonly usesLaptop: boolean
  readonly movesLaptop: boolean
  /** Addresses that come to the switch, or leave it. */
  readonly changes: readonly number[]
  /** The address on the switch that it speaks to or looks at: nobody else may hold it then. */
  readonly meets: readonly number[]
  /** Subnets with few hosts in which somebody takes or gives back one. */
  readonly holds: readonly number[]
  /** A subnet with few hosts in which the laptop needs one. */
  readonly crowds: readonly number[]
  /** Devices of its group clash from now on, do so still, or do so no longer. */
  readonly opens: boolean
  readonly inside: boolean
  readonly ends: boolean
  /** By device, seconds until what it started answers. */
  readonly startUp: ReadonlyMap<number, number>
}

const nothing: readonly number[] = []
const atOnce: ReadonlyMap<number, number> = new Map()

/** Follows moves on the model and says of each what it stands on. Whether it may be made is not asked here. */
export function factsOf(compiled: CompiledJob, start: State, moves: readonly Move[]): readonly Facts[] {
  const state = copyOf(start)
  return moves.map((move): Facts => {
    const touched = touchedBy(compiled, state, move)
    const concerned = touched.power ? (compiled.members[touched.groups[0] ?? -1] ?? nothing) : touched.devices
    const laptop = laptopOf(compiled, state, move)
    const before = concerned.map((device) => standing(compiled, state, device))
    const clashed = state.clashing >= 0
    apply(compiled, state, move)
    const clashes = state.clashing >= 0
    const after = concerned.map((device) => standing(compiled, state, device))
    return {
      kind: move.kind,
      ...touched,
      ...laptop,
      changes: changesBetween(before, after),
      holds: heldBetween(compiled, before, after),
      opens: !clashed && clashes,
      inside: clashed || clashes,
      ends: clashed && !clashes,
      startUp: startUpBy(compiled, move),
    }
  })
}

/**
 * Whether two moves keep their order, because one changes what the other stands on: the same device, the same group, the
 * laptop's subnets or cable, an address on the switch that one changes and the other changes, speaks to or looks at.
 * While devices of one group clash, nothing else comes or goes.
 *
 * @param a the earlier of the two
 */
export function keepOrder(a: Facts, b: Facts): boolean {
  if (a.ends || b.opens) return true
  if (a.movesLaptop && (b.movesLaptop || b.usesLaptop)) return true
  if (b.movesLaptop && a.usesLaptop) return true
  if (meet(a.devices, b.devices)) return true
  if ((a.power || b.power) && meet(a.groups, b.groups)) return true
  // Within a clash the setting that ends it is made when all before it are.
  if (b.ends && a.inside) return true
  if (meet(a.changes, b.changes) || meet(a.changes, b.meets) || meet(a.meets, b.changes)) return true
  return meet(a.holds, b.crowds) || meet(a.crowds, b.holds)
}

function meet(some: readonly number[], others: readonly number[]): boolean {
  if (others.length === 0) return false
  for (const each of some) if (others.includes(each)) return true
  return false
}

/** Where a device stands: its address on the switch, -1 where nobody hears it there, and its spots. */
interface Standing {
  readonly heard: number
  readonly at: number
  readonly pending: number
}

function standing(compiled: CompiledJob, state: State, device: number): Standing {
  const at = state.at[device] ?? -1
  const heard = isOnSwitch(compiled, state, device) ? addressAt(compiled, at) : -1
  return { heard, at, pending: state.pending[device] ?? -1 }
}

function changesBetween(before: readonly Standing[], after: readonly Standing[]): readonly number[] {
  let changes: number[] | undefined
  before.forEach(({ heard }, k) => {
    const now = after[k]?.heard ?? -1
    if (now === heard) return
    changes ??= []
    for (const address of [heard, now]) if (address >= 0 && !changes.includes(address)) changes.push(address)
  })
  return changes ?? nothing
}

/** Subnets that are not roomy in which a host is taken or given back. */
function heldBetween(
  compiled: CompiledJob,
  before: readonly Standing[],
  after: readonly Standing[],
): readonly number[] {
  let subnets: Set<number> | undefined
  before.forEach((was, k) => {
    for (const place of ['at', 'pending'] as const) {
      const now = after[k]?.[place] ?? -1
      if (now === was[place]) continue
      for (const spot of [was[place], now]) {
        const subnet = compiled.spots[spot]?.subnet ?? -1
        if (subnet >= 0 && !compiled.roomy[subnet]) (subnets ??= new Set()).add(subnet)
      }
    }
  })
  return subnets ? [...subnets] : nothing
}

function touchedBy(compiled: CompiledJob, state: State, move: Move): Pick<Facts, 'devices' | 'groups' | 'power'> {
  if (move.kind === 'laptop') return { devices: nothing, groups: nothing, power: false }
  if ('group' in move) return { devices: nothing, groups: [move.group], power: true }
  // The cable also puts the device it leaves back on the switch.
  const devices = (move.kind === 'cable' ? [move.device, state.cable] : [move.device]).filter((device) => device >= 0)
  return { devices, groups: devices.map((device) => compiled.devices[device]?.group ?? -1), power: false }
}

function laptopOf(
  compiled: CompiledJob,
  state: State,
  move: Move,
): Pick<Facts, 'usesLaptop' | 'movesLaptop' | 'meets' | 'crowds'> {
  const none = { usesLaptop: false, movesLaptop: false, meets: nothing, crowds: nothing }
  switch (move.kind) {
    case 'laptop':
      return { ...none, movesLaptop: true, crowds: compiled.roomy[move.subnet] ? nothing : [move.subnet] }
    case 'cable':
      return { ...none, movesLaptop: true }
    case 'set':
    case 'verify': {
      if (move.kind === 'set' && compiled.devices[move.device]?.local) return none
      const address = addressAt(compiled, state.at[move.device] ?? -1)
      const meets = address >= 0 && isOnSwitch(compiled, state, move.device) ? [address] : nothing
      return { ...none, usesLaptop: true, meets }
    }
    default:
      return none
  }
}

function startUpBy({ job, members }: CompiledJob, move: Move): ReadonlyMap<number, number> {
  const secondsOf = (device: number) => job.devices[device]?.startUpSeconds ?? 0
  if (move.kind === 'group-on')
    return new Map((members[move.group] ?? []).map((device) => [device, secondsOf(device)] as const))
  if (move.kind !== 'set' || job.devices[move.device]?.effect !== 'self-restart') return atOnce
  return new Map([[move.device, secondsOf(move.device)]])
}
