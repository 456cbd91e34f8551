import {
  addressAt,
  apply,
  type BringUpAction,
  type BringUpJob,
  type CompiledJob,
  compileJob,
  copyOf,
  isOnSwitch,
  type Move,
  startState,
  type State,
} from '../model'
import { moveOf } from '../translate'

/** What one action stands on and what it changes, as things stand when its turn comes. Devices, groups, addresses and subnets are numbers of the compiled job. */
export interface Facts {
  readonly kind: BringUpAction['kind']
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

/** Follows an order on the model and says of each action what it stands on. Whether it may be done is not asked here. */
export function factsOf(job: BringUpJob, actions: readonly BringUpAction[]): readonly Facts[] {
  const compiled = compileJob(job)
  let state = startState(compiled)
  let heard = heardOf(compiled, state)
  return actions.map((action): Facts => {
    const move = moveOf(compiled, action)
    if (!move) throw new RangeError(`The job does not have what this action names: ${JSON.stringify(action)}`)
    const before = state
    state = copyOf(before)
    apply(compiled, state, move)
    const was = heard
    heard = heardOf(compiled, state)
    return {
      kind: action.kind,
      ...touchedBy(compiled, before, move),
      ...laptopOf(compiled, before, move),
      changes: changesBetween(was, heard),
      holds: heldBetween(compiled, before, state),
      opens: before.clashing < 0 && state.clashing >= 0,
      inside: before.clashing >= 0 || state.clashing >= 0,
      ends: before.clashing >= 0 && state.clashing < 0,
      startUp: startUpBy(compiled, move),
    }
  })
}

/** By device, its address on the switch; -1 where nobody hears it there. */
function heardOf(compiled: CompiledJob, state: State): Int32Array {
  return Int32Array.from(compiled.devices, (_, device) =>
    isOnSwitch(compiled, state, device) ? addressAt(compiled, state.at[device] ?? -1) : -1,
  )
}

function changesBetween(was: Int32Array, is: Int32Array): readonly number[] {
  const changes = new Set<number>()
  was.forEach((address, device) => {
    const now = is[device] ?? -1
    if (now !== address) changes.add(address).add(now)
  })
  changes.delete(-1)
  return [...changes]
}

/** Subnets that are not roomy in which a host is taken or given back. */
function heldBetween(compiled: CompiledJob, before: State, after: State): readonly number[] {
  const subnets = new Set<number>()
  const note = (spot: number) => {
    const subnet = compiled.spots[spot]?.subnet ?? -1
    if (subnet >= 0 && !compiled.roomy[subnet]) subnets.add(subnet)
  }
  for (const list of ['at', 'pending'] as const)
    before[list].forEach((spot, device) => {
      const now = after[list][device] ?? -1
      if (now !== spot) [spot, now].forEach(note)
    })
  return [...subnets]
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
