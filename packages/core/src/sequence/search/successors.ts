import { addressAt, after, codeOf, type CompiledJob, costOf, isLegal, isLive, type Move, type State } from '../model'
import { makeForced, troubledDevices } from './forced'

/** One way on: the moves made, what they cost together, and the state they lead to. */
export interface Step {
  readonly moves: readonly Move[]
  readonly cost: number
  readonly state: State
}

/** A move followed by all that is forced after it. */
export function stepOf(compiled: CompiledJob, from: State, move: Move): Step {
  const state = after(compiled, from, move)
  const moves = [move]
  makeForced(compiled, state, moves)
  return { moves, cost: moves.reduce((sum, each) => sum + costOf(compiled, each), 0), state }
}

/** Every way on that a best plan may need. Nothing that is forced is left to do in `state`. */
export function stepsFrom(compiled: CompiledJob, state: State): readonly Step[] {
  const troubled = troubledDevices(compiled, state)
  const finishing = finishingVisit(compiled, state, troubled)
  if (finishing) return [finishing]
  return movesFrom(compiled, state, troubled).flatMap((move) => {
    if (!isLegal(compiled, state, move)) return []
    const step = stepOf(compiled, state, move)
    return move.kind === 'laptop' && canWait(compiled, step, move.subnet, troubled) ? [] : [step]
  })
}

/** Subnets that some unfinished device still needs the laptop in, or may need it in. */
function subnetsOfInterest(compiled: CompiledJob, state: State, troubled: Uint8Array): ReadonlySet<number> {
  const subnets = new Set<number>()
  compiled.devices.forEach((facts, device) => {
    if (state.verified[device] && !troubled[device]) return
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
 * may be visited at once, because every plan visits it once more.
 */
function finishingVisit(compiled: CompiledJob, state: State, troubled: Uint8Array): Step | undefined {
  if (compiled.job.laptop.holds !== 1 || state.clashing >= 0 || state.cable >= 0) return undefined
  for (let device = 0; device < troubled.length; device += 1) if (troubled[device]) return undefined
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

function movesFrom(compiled: CompiledJob, state: State, troubled: Uint8Array): readonly Move[] {
  const moves: Move[] = []
  const stands = standsForLikes(compiled, state)
  compiled.devices.forEach((_, device) => {
    if (troubled[device] && stands[device] && isLive(compiled, state, device))
      moves.push(...settingsOf(compiled, state, device))
  })
  if (state.clashing >= 0) return [...moves, { kind: 'group-off', group: state.clashing }]
  compiled.members.forEach((members, group) => {
    if (members.length === 1 && !stands[members[0] ?? -1]) return
    if (!state.on[group]) moves.push({ kind: 'group-on', group })
    else if (members.some((member) => troubled[member] || (state.pending[member] ?? -1) >= 0))
      moves.push({ kind: 'group-off', group })
  })
  for (const subnet of subnetsOfInterest(compiled, state, troubled)) {
    if (state.laptop.length < compiled.job.laptop.holds) moves.push({ kind: 'laptop', subnet, leaves: -1 })
    else for (const leaves of state.laptop) moves.push({ kind: 'laptop', subnet, leaves })
  }
  if (state.cable >= 0) moves.push({ kind: 'cable', device: -1 })
  compiled.devices.forEach((_, device) => {
    if (troubled[device] && stands[device]) moves.push({ kind: 'cable', device })
  })
  return moves
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
