import {
  type BringUpAction,
  type BringUpCost,
  type BringUpJob,
  type CompiledJob,
  compileJob,
  type Move,
  startState,
  type State,
} from './model'
import { actionOf } from './translate'
import { remainingOf, searchFrom, type Limits } from './search'

/** An order of bring-up, what it costs, and what any order costs at least. */
export interface BringUpOrder {
  readonly actions: readonly BringUpAction[]
  readonly cost: BringUpCost
  /** No plan is below this: in seconds when seconds are preferred, and for each kind of action by itself. */
  readonly bound: Omit<BringUpCost, 'cableMoves' | 'leadMoves'>
  /** Nothing cheaper exists. */
  readonly proven: boolean
  readonly looked: number
}

/** The best order of bring-up; `undefined` where there is none, or none was found within the limits. */
export function planBringUp(job: BringUpJob, limits?: Limits): BringUpOrder | undefined {
  const compiled = compileJob(job)
  return orderFrom(compiled, startState(compiled), limits)
}

/** The best order from a state on. */
export function orderFrom(compiled: CompiledJob, start: State, limits?: Limits): BringUpOrder | undefined {
  const { job } = compiled
  const found = searchFrom(compiled, start, limits)
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
  const cost = { seconds: 0, laptopChanges: 0, powerActions: 0, settings: 0, cableMoves: 0, leadMoves: 0 }
  for (const move of moves) {
    if (move.kind === 'laptop') {
      cost.laptopChanges += 1
      cost.seconds += job.seconds.laptopChange
    } else if (move.kind === 'cable') {
      cost.cableMoves += 1
      cost.seconds += job.seconds.cableMove
    } else if (move.kind === 'lead-out' || move.kind === 'lead-in') {
      cost.leadMoves += 1
      cost.seconds += job.seconds.leadMove
    } else if (move.kind === 'set') {
      cost.settings += 1
      cost.seconds += compiled.devices[move.device]?.handsOn ?? 0
    } else if ('group' in move) {
      cost.powerActions += 1
      cost.seconds += job.groups[move.group]?.seconds ?? 0
    }
  }
  return cost
}
