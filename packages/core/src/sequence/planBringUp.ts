import {
  type BringUpAction,
  type BringUpCost,
  type BringUpJob,
  type CompiledJob,
  compileJob,
  type HostAddress,
  type Move,
  startState,
  type State,
} from './model'
import { remainingOf, searchFrom } from './search'

/** An order of bring-up, what it costs, and what any order costs at least. */
export interface BringUpOrder {
  readonly actions: readonly BringUpAction[]
  readonly cost: BringUpCost
  /** No plan is below this: in seconds when seconds are preferred, and for each kind of action by itself. */
  readonly bound: Omit<BringUpCost, 'cableMoves'>
  /** Nothing cheaper exists. */
  readonly proven: boolean
  readonly looked: number
}

/**
 * The best order of bring-up; `undefined` where there is none, or none was found within the effort.
 * @param effort states looked at before proof is given up
 */
export function planBringUp(job: BringUpJob, effort?: number): BringUpOrder | undefined {
  const compiled = compileJob(job)
  return orderFrom(compiled, startState(compiled), effort)
}

/** The best order from a state on. */
export function orderFrom(compiled: CompiledJob, start: State, effort?: number): BringUpOrder | undefined {
  const { job } = compiled
  const found = searchFrom(compiled, start, effort)
  if (!found.moves) return undefined
  const least = remainingOf(compiled, start)
  const cost = costOfMoves(compiled, found.moves)
  const boundSeconds = job.preference === 'seconds' ? Math.ceil(found.bound / 1e9 - 1 + 1e-9) : least.seconds
  return {
    actions: found.moves.map((move) => actionOf(compiled, move)),
    cost,
    bound: {
      seconds: found.proven && job.preference === 'seconds' ? cost.seconds : Math.max(least.seconds, boundSeconds),
      laptopChanges: least.laptopChanges,
      powerActions: least.powerActions,
      settings: least.settings,
    },
    proven: found.proven,
    looked: found.looked,
  }
}

/** Adds up what moves cost. */
export function costOfMoves(compiled: CompiledJob, moves: readonly Move[]): BringUpCost {
  const { job } = compiled
  const cost = { seconds: 0, laptopChanges: 0, powerActions: 0, settings: 0, cableMoves: 0 }
  for (const move of moves) {
    if (move.kind === 'laptop') {
      cost.laptopChanges += 1
      cost.seconds += job.seconds.laptopChange
    } else if (move.kind === 'cable') {
      cost.cableMoves += 1
      cost.seconds += job.seconds.cableMove
    } else if (move.kind === 'set') {
      cost.settings += 1
      cost.seconds += compiled.devices[move.device]?.handsOn ?? 0
    } else if (move.kind !== 'verify') {
      cost.powerActions += 1
      cost.seconds += job.groups[move.group]?.seconds ?? 0
    }
  }
  return cost
}

/** A move in the words of the job. */
function actionOf(compiled: CompiledJob, move: Move): BringUpAction {
  const { job, spots, devices, subnets } = compiled
  const idOf = (device: number): string => job.devices[device]?.id ?? ''
  const place = (spot: number): HostAddress => {
    const { address, prefix } = spots[spot] ?? fail()
    return { address, prefix }
  }
  const subnet = (index: number): HostAddress => {
    const { base, prefix } = subnets[index] ?? fail()
    return { address: base, prefix }
  }
  switch (move.kind) {
    case 'laptop':
      return { kind: 'laptop', into: subnet(move.subnet), leaves: move.leaves < 0 ? null : subnet(move.leaves) }
    case 'cable':
      return { kind: 'cable', into: move.device < 0 ? 'switch' : idOf(move.device) }
    case 'set': {
      const facts = devices[move.device]
      const parking = move.to !== facts?.target
      return { kind: 'set', deviceId: idOf(move.device), to: place(move.to), parking, pending: facts?.cycles ?? false }
    }
    case 'verify':
      return { kind: 'verify', deviceId: idOf(move.device) }
    default:
      return { kind: move.kind, groupId: job.groups[move.group]?.id ?? '' }
  }
}

function fail(): never {
  throw new RangeError('A move names what the job does not have')
}
