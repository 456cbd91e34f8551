import {
  addressAt,
  after,
  clashes,
  codeOf,
  type CompiledJob,
  costOf,
  isLegal,
  isLive,
  type Move,
  type State,
} from '../model'
import { makeForced, placesOf, troubledDevices } from './forced'

/** One way on: the moves made, what they cost together, and the state they lead to. */
export interface Step {
  readonly moves: readonly Move[]
  readonly cost: number
  readonly state: State
  /** By how much more is left to do than before, where that is known without counting anew. */
  readonly more?: number
}

/** A way on that is dear: only where it comes first is it looked at what follows from it. */
export interface LaterStep {
  readonly later: Move
  /** What it costs, and by how much at least more is left to do after it. */
  readonly cost: number
  readonly more: number
}

/** Which ways on are looked at: all, or only those that need neither a lead nor the straight cable. */
export type Ways = 'all' | 'plain'

/** A move followed by all that is forced after it. */
export function stepOf(compiled: CompiledJob, from: State, move: Move): Step {
  const state = after(compiled, from, move)
  const moves = [move]
  makeForced(compiled, state, moves)
  return { moves, cost: moves.reduce((sum, each) => sum + costOf(compiled, each), 0), state }
}

/**
 * Pulling a lead that clashes with nobody now only makes room: nothing is forced by it, and what is left grows by
 * putting it in again.
 */
function leadOutStep(compiled: CompiledJob, from: State, move: Move & { kind: 'lead-out' | 'lead-in' }): Step {
  if (move.kind === 'lead-in' || clashes(compiled, from, move.device)) return stepOf(compiled, from, move)
  const { lead, cable } = compiled.weight
  return { moves: [move], cost: lead, state: after(compiled, from, move), more: Math.min(lead, cable) }
}

/** Every way on that a best plan may need. Nothing that is forced is left to do in `state`. */
export function stepsFrom(compiled: CompiledJob, state: State, ways: Ways = 'all'): readonly (Step | LaterStep)[] {
  const { cuts } = compiled
  const troubled = troubledDevices(compiled, state)
  const finishing = cuts.has('visit') ? finishingVisit(compiled, state, troubled) : undefined
  if (finishing) return [finishing]
  return movesFrom(compiled, state, troubled, ways).flatMap((move): readonly (Step | LaterStep)[] => {
    if (!isLegal(compiled, state, move)) return []
    // The cable has to come back: going in costs twice.
    if (move.kind === 'cable' && state.cable < 0)
      return [
        {
          later: move,
          cost: compiled.weight.cable,
          more: compiled.weight.cable - leadLeft(compiled, state, move.device),
        },
      ]
    const step =
      move.kind === 'lead-out' || move.kind === 'lead-in'
        ? leadOutStep(compiled, state, move)
        : stepOf(compiled, state, move)
    return move.kind === 'laptop' && cuts.has('wait') && canWait(compiled, step, move.subnet, troubled) ? [] : [step]
  })
}

/** Subnets that some unfinished device still needs the laptop in, or may need it in. */
function subnetsOfInterest(compiled: CompiledJob, state: State, troubled: Uint8Array): ReadonlySet<number> {
  const subnets = new Set<number>()
  compiled.devices.forEach((facts, device) => {
    if (facts.frozen || (state.verified[device] && !troubled[device])) return
    subnets.add(compiled.spots[facts.target]?.subnet ?? -1)
    const at = state.at[device] ?? -1
    if (!facts.local && at >= 0) subnets.add(compiled.spots[at]?.subnet ?? -1)
    const waiting = state.pending[device] ?? -1
    if (waiting >= 0) subnets.add(compiled.spots[waiting]?.subnet ?? -1)
  })
  return subnets
}

/**
 * With one address and nobody in anybody's way: a subnet where one visit finishes all that will ever be needed there
 * may be visited at once, because every plan visits it once more. Not while something waits for power that will then
 * answer where the laptop is: taking it off and on before leaving may save the way back.
 */
function finishingVisit(compiled: CompiledJob, state: State, troubled: Uint8Array): Step | undefined {
  if (compiled.job.laptop.holds !== 1 || state.clashing >= 0 || state.cable >= 0) return undefined
  for (let device = 0; device < troubled.length; device += 1) {
    const waiting = state.pending[device] ?? -1
    if (troubled[device]) return undefined
    if (compiled.devices[device]?.frozen) continue
    if (state.out[device]) return undefined
    if (waiting >= 0 && state.laptop.includes(compiled.spots[waiting]?.subnet ?? -1)) return undefined
  }
  const interest = subnetsOfInterest(compiled, state, troubled)
  for (const subnet of interest) {
    if (!compiled.roomy[subnet]) continue
    const move: Move = { kind: 'laptop', subnet, leaves: state.laptop[0] ?? -1 }
    if (!isLegal(compiled, state, move)) continue
    const step = stepOf(compiled, state, move)
    if (!subnetsOfInterest(compiled, step.state, troubled).has(subnet)) return step
  }
  return undefined
}

/** What the bound counts for a lead that the cable in its place puts in. */
const leadLeft = ({ weight }: CompiledJob, state: State, device: number): number =>
  state.out[device] ? Math.min(weight.lead, weight.cable) : 0

function movesFrom(compiled: CompiledJob, state: State, troubled: Uint8Array, ways: Ways): readonly Move[] {
  const moves: Move[] = []
  const { cuts } = compiled
  const stands = standsForLikes(compiled, state)
  compiled.devices.forEach((facts, device) => {
    if (facts.frozen || !stands[device] || !isLive(compiled, state, device)) return
    if (troubled[device] || !cuts.has('troubled')) moves.push(...settingsOf(compiled, state, device))
    else if (!cuts.has('set') && mayStillBeSet(state, device, facts))
      moves.push({ kind: 'set', device, to: facts.target })
    if (!cuts.has('verify')) moves.push({ kind: 'verify', device })
  })
  if (state.clashing >= 0) return [...moves, { kind: 'group-off', group: state.clashing }]
  compiled.members.forEach((members, group) => {
    if (!compiled.switched[group] || (members.length === 1 && !stands[members[0] ?? -1])) return
    if (!state.on[group]) moves.push({ kind: 'group-on', group })
    else if (!cuts.has('troubled') || members.some((member) => troubled[member] || (state.pending[member] ?? -1) >= 0))
      moves.push({ kind: 'group-off', group })
  })
  for (const subnet of subnetsOfInterest(compiled, state, troubled)) {
    if (state.laptop.length < compiled.job.laptop.holds) moves.push({ kind: 'laptop', subnet, leaves: -1 })
    else for (const leaves of state.laptop) moves.push({ kind: 'laptop', subnet, leaves })
  }
  if (state.cable >= 0) moves.push({ kind: 'cable', device: -1 })
  const contested = cuts.has('leads') ? contestedDevices(compiled, state) : undefined
  compiled.devices.forEach(({ frozen }, device) => {
    if (frozen || !stands[device] || (ways === 'plain' && !state.out[device])) return
    if (troubled[device] || state.out[device] || !cuts.has('troubled')) moves.push({ kind: 'cable', device })
    if (state.out[device]) moves.push({ kind: 'lead-in', device })
    else if (!contested || contested[device]) moves.push({ kind: 'lead-out', device })
  })
  return moves
}

const mayStillBeSet = (
  state: State,
  device: number,
  { lease, reachesTarget, target }: CompiledJob['devices'][number],
) => !lease && reachesTarget && state.at[device] !== target && state.pending[device] !== target

/**
 * Devices that stand, or come up, at an address that another stands at, has waiting or wants; and those that are
 * parked. Nobody else's lead is in anybody's way.
 */
function contestedDevices(compiled: CompiledJob, state: State): Uint8Array {
  const count = new Map<number, number>()
  const addressesOf = (device: number) =>
    new Set(
      placesOf(compiled, state, device)
        .map((spot) => addressAt(compiled, spot))
        .filter((address) => address >= 0),
    )
  compiled.devices.forEach((_, device) => {
    for (const address of addressesOf(device)) count.set(address, (count.get(address) ?? 0) + 1)
  })
  return Uint8Array.from(compiled.devices, ({ present, target }, device) => {
    const at = state.at[device] ?? -1
    const pending = state.pending[device] ?? -1
    const parked = at >= 0 && at !== present && at !== target
    const wanted = [at, pending].some((spot) => spot >= 0 && (count.get(addressAt(compiled, spot)) ?? 0) > 1)
    return parked || wanted ? 1 : 0
  })
}

/** Of devices that are alike and stand alike, one: what is done with another leads to the same. */
function standsForLikes(compiled: CompiledJob, state: State): readonly boolean[] {
  const seen = new Set<string>()
  return compiled.devices.map(({ likeness }, device) => {
    if (likeness < 0) return true
    const code = `${likeness} ${codeOf(compiled, state, device)}`
    return !seen.has(code) && seen.add(code).size > 0
  })
}

/** Settings that are a choice: the target where somebody else is concerned by it, and one spare host in each subnet. */
function settingsOf(compiled: CompiledJob, state: State, device: number): readonly Move[] {
  const facts = compiled.devices[device]
  if (!facts || facts.lease) return []
  const now = (state.pending[device] ?? -1) >= 0 ? state.pending[device] : state.at[device]
  const places = facts.reachesTarget && now !== facts.target ? [facts.target] : []
  for (const spares of facts.parking) places.push(...spareFor(compiled, state, device, spares))
  return places.map((to): Move => ({ kind: 'set', device, to }))
}

/** Spare hosts are as good as each other: the first that nobody holds; all of them where everyone is held. */
function spareFor(compiled: CompiledJob, state: State, device: number, spares: readonly number[]): readonly number[] {
  if (spares.includes(state.at[device] ?? -1) || spares.includes(state.pending[device] ?? -1)) return []
  if (!compiled.cuts.has('spare')) return spares
  const free = spares.find((spare) => {
    const address = addressAt(compiled, spare)
    return compiled.devices.every(
      (_, other) =>
        other === device ||
        (addressAt(compiled, state.at[other] ?? -1) !== address &&
          addressAt(compiled, state.pending[other] ?? -1) !== address),
    )
  })
  return free === undefined ? spares : [free]
}

/** A change of the laptop that enables nothing now can as well be made later, unless its last host may be taken until then. */
function canWait(compiled: CompiledJob, step: Step, subnet: number, troubled: Uint8Array): boolean {
  if (!compiled.roomy[subnet] || step.moves.length > 1) return false
  return !enablesSetting(compiled, step.state, subnet, troubled)
}

/** Whether some device in the subnet can be set now, forced or by choice. */
function enablesSetting(compiled: CompiledJob, state: State, subnet: number, troubled: Uint8Array): boolean {
  return compiled.devices.some((facts, device) => {
    if (!troubled[device] || facts.local || compiled.spots[state.at[device] ?? -1]?.subnet !== subnet) return false
    return settingsOf(compiled, state, device).some((move) => isLegal(compiled, state, move))
  })
}
