import {
  addressAt,
  apply,
  clashes,
  type CompiledJob,
  copyOf,
  costOf,
  holderOf,
  isDone,
  isLegal,
  isLive,
  keyOf,
  type Move,
  type State,
} from '../model'
import type { Chance } from '../chance'
import { remainingOf } from './bound'
import { makeForced } from './forced'
import { stepsFrom } from './successors'

/** A plan that was found straight on, without looking back. */
export interface Straight {
  readonly moves: readonly Move[]
  readonly cost: number
}

/** Ways on looked at where nothing plain is left to do, before it is given up. */
const MOST_LOOKS = 200

/** Moves for each device and group before it is given up: nobody goes so often to one box. */
const MOST_MOVES = 20

/**
 * Goes straight to the end as a person would who never looks back: what may be put on is, the laptop goes where most
 * can be done, whatever can be done there is done. Where nothing plain is left, the way on that leaves least. Quick for
 * any number of devices; the search asks for better.
 */
export function straightOn(
  compiled: CompiledJob,
  start: State,
  isLate: () => boolean,
  taste: Taste = plainTaste(compiled),
): Straight | undefined {
  const state = copyOf(start)
  const moves: Move[] = []
  const seen = new Set<string>()
  let looks = 0
  makeForced(compiled, state, moves)
  const most = MOST_MOVES * (compiled.devices.length + compiled.members.length)
  while (!isDone(compiled, state)) {
    if (moves.length > most) return undefined
    const key = keyOf(compiled, state)
    const plain = seen.has(key) ? undefined : plainMoves(compiled, state, taste)
    seen.add(key)
    if (plain) {
      for (const move of plain) apply(compiled, state, move)
      moves.push(...plain)
      makeForced(compiled, state, moves)
      continue
    }
    if ((looks += 1) > MOST_LOOKS || isLate()) return undefined
    const step = leastLeft(compiled, state, seen)
    if (!step) return undefined
    for (const each of step) {
      apply(compiled, state, each)
      moves.push(each)
    }
  }
  return { moves, cost: moves.reduce((sum, move) => sum + costOf(compiled, move), 0) }
}

/** What is tried first where several ways are open. */
export interface Taste {
  /** Groups, those to be put on first in front. */
  readonly groups: readonly number[]
  /** How much a setting counts against a look, where the laptop goes next. */
  readonly setting: number
  /** By subnet, how readily the laptop goes there. */
  readonly draw: readonly number[]
}

export const plainTaste = (compiled: CompiledJob): Taste => ({
  groups: compiled.members.map((_, group) => group),
  setting: 1,
  draw: compiled.subnets.map(() => 1),
})

/** Another taste by chance, so that going straight on ends elsewhere. */
export function someTaste(compiled: CompiledJob, next: Chance): Taste {
  const groups = compiled.members.map((_, group) => group)
  for (let last = groups.length - 1; last > 0; last -= 1) {
    const other = next(last + 1)
    const [a, b] = [groups[last] as number, groups[other] as number]
    groups[last] = b
    groups[other] = a
  }
  return { groups, setting: 1 + next(8), draw: compiled.subnets.map(() => 1 + next(3)) }
}

function plainMoves(compiled: CompiledJob, state: State, taste: Taste): readonly Move[] | undefined {
  if (state.clashing >= 0) return undefined
  for (const group of taste.groups) {
    const move: Move = { kind: 'group-on', group }
    if (state.on[group] || !isLegal(compiled, state, move)) continue
    const after = copyOf(state)
    apply(compiled, after, move)
    if (after.clashing < 0) return [move]
  }
  for (let device = 0; device < state.out.length; device += 1) {
    const move: Move = { kind: 'lead-in', device }
    if (state.out[device] && isLive(compiled, state, device) && isLegal(compiled, state, move)) return [move]
  }
  const laptop = laptopMove(compiled, state, taste)
  if (laptop) return [laptop]
  for (const group of taste.groups) {
    const moves = offAndOn(compiled, state, group)
    if (moves) return moves
  }
  for (const group of taste.groups) {
    const moves = onWithLeadsOut(compiled, state, group)
    if (moves) return moves
  }
  return undefined
}

/** A group in which something waits for power. */
function offAndOn(compiled: CompiledJob, state: State, group: number): readonly Move[] | undefined {
  if (!(compiled.members[group] ?? []).some((member) => (state.pending[member] ?? -1) >= 0)) return undefined
  const off: Move = { kind: 'group-off', group }
  const on: Move = { kind: 'group-on', group }
  if (!isLegal(compiled, state, off)) return undefined
  const after = copyOf(state)
  apply(compiled, after, off)
  return isLegal(compiled, after, on) ? [off, on] : undefined
}

/** A group put on after the leads of those are pulled that would stand where another stands. */
function onWithLeadsOut(compiled: CompiledJob, state: State, group: number): readonly Move[] | undefined {
  if (compiled.job.groups[group]?.chained) return undefined
  // What is not in the order keeps its lead: it has its address first.
  const frozen = (member: number) => (compiled.devices[member]?.frozen ? 1 : 0)
  const members = [...(compiled.members[group] ?? [])].sort((a, b) => frozen(b) - frozen(a))
  if (state.on[group]) {
    const clashing = members.find((member) => !frozen(member) && clashes(compiled, state, member))
    return clashing === undefined ? undefined : [{ kind: 'lead-out', device: clashing }]
  }
  const taken = new Set<number>()
  const after = copyOf(state)
  const moves: Move[] = []
  for (const member of members) {
    const waiting = state.pending[member] ?? -1
    const address = addressAt(compiled, waiting >= 0 ? waiting : (state.at[member] ?? -1))
    if (address < 0 || state.out[member] || state.cable === member) continue
    if (!taken.has(address) && holderOf(compiled, state, address, member) < 0) taken.add(address)
    else if (frozen(member)) return undefined
    else {
      moves.push({ kind: 'lead-out', device: member })
      after.out[member] = 1
    }
  }
  const on: Move = { kind: 'group-on', group }
  return isLegal(compiled, after, on) ? [...moves, on] : undefined
}

/** Into the subnet in which most can be set or found again. */
function laptopMove(compiled: CompiledJob, state: State, { setting, draw }: Taste): Move | undefined {
  const counts = new Map<number, number>()
  compiled.devices.forEach((facts, device) => {
    if (state.verified[device] || state.out[device] || !isLive(compiled, state, device)) return
    if (clashes(compiled, state, device)) return
    const at = state.at[device] ?? -1
    const works = at === facts.target || (!facts.local && !facts.lease && (state.pending[device] ?? -1) < 0)
    const subnet = compiled.spots[at]?.subnet ?? -1
    const much = (at === facts.target ? 1 : setting) * (draw[subnet] ?? 1)
    if (works && subnet >= 0) counts.set(subnet, (counts.get(subnet) ?? 0) + much)
  })
  const [best] = [...counts].filter(([subnet]) => !state.laptop.includes(subnet)).sort((a, b) => b[1] - a[1])
  if (!best) return undefined
  const full = state.laptop.length >= compiled.job.laptop.holds
  const move: Move = { kind: 'laptop', subnet: best[0], leaves: full ? (state.laptop[0] ?? -1) : -1 }
  return isLegal(compiled, state, move) ? move : undefined
}

/** The moves of the cheapest way on to a state that was not seen. */
function leastLeft(compiled: CompiledJob, state: State, seen: ReadonlySet<string>): readonly Move[] | undefined {
  let best: { readonly moves: readonly Move[]; readonly estimate: number } | undefined
  for (const step of stepsFrom(compiled, state)) {
    if ('later' in step) continue
    const estimate = step.cost + GREED * remainingOf(compiled, step.state).weighed
    if ((best && best.estimate <= estimate) || seen.has(keyOf(compiled, step.state))) continue
    best = { moves: step.moves, estimate }
  }
  return best?.moves
}

const GREED = 3
