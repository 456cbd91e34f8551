import { bringUp, type BringUpAnswer } from './bringUp'
import {
  apply,
  type BringUpAction,
  type BringUpJob,
  type CompiledJob,
  compileJob,
  copyOf,
  costOf,
  isDone,
  isLegal,
  type Move,
  startState,
  type State,
} from './model'
import { explainConflict, listOrderOf, smallestConflict } from './explain'
import { costOfMoves, orderFrom } from './planBringUp'
import { isPlainlyPossible, type Limits } from './search'
import { moveOf } from './translate'

/**
 * The order from now on, while work is under way. What someone has begun counts as done next; of what was planned
 * before as much stays in its order as costs nothing: first all of it, then all of it with the new devices after it.
 *
 * @param begun actions in hand, in order; what does not fit the job any more is left out
 * @param previous what was planned after them
 */
export function replan(
  job: BringUpJob,
  begun: readonly BringUpAction[],
  previous: readonly BringUpAction[],
  limits?: Limits,
): BringUpAnswer {
  const compiled = compileJob(job)
  if (!isPlainlyPossible(compiled, startState(compiled))) {
    const few = smallestConflict(job, 1, 2, () => (limits?.used?.() ?? 0) > 0.2)
    if (few) return { kind: 'impossible', ...explainConflict(job, few) }
  }
  const start = startState(compiled)
  follow(compiled, start, begun)
  const fresh = orderFrom(compiled, start, limits)
  if (!fresh) return bringUp(job, limits)
  if (previous.length === 0) return { kind: 'order', ...fresh, listOrder: listOrderOf(compiled, start) }
  const weighed = (moves: readonly Move[]) => moves.reduce((sum, move) => sum + costOf(compiled, move), 0)
  const freshMoves = fresh.actions.flatMap((action) => moveOf(compiled, action) ?? [])
  const state = copyOf(start)
  const kept = follow(compiled, state, previous)
  const rest = isDone(compiled, state) ? { actions: [] } : orderFrom(compiled, state, limits)
  const keptMoves = [...kept, ...(rest?.actions ?? [])].flatMap((action) => moveOf(compiled, action) ?? [])
  const keeps = rest !== undefined && weighed(keptMoves) <= weighed(freshMoves)
  const listOrder = listOrderOf(compiled, start)
  if (!keeps) return { kind: 'order', ...fresh, listOrder }
  return {
    kind: 'order',
    ...fresh,
    actions: [...kept, ...(rest?.actions ?? [])],
    cost: costOfMoves(compiled, keptMoves),
    listOrder,
  }
}

/** Makes those of the actions that may be made, in place, and returns them. */
function follow(compiled: CompiledJob, state: State, actions: readonly BringUpAction[]): readonly BringUpAction[] {
  return actions.filter((action) => {
    const move = moveOf(compiled, action)
    if (!move || !isLegal(compiled, state, move) || isIdle(state, move)) return false
    apply(compiled, state, move)
    return true
  })
}

/** A setting of what is set, or waits, already. */
const isIdle = (state: State, move: Move): boolean =>
  move.kind === 'set' && (state.at[move.device] === move.to || state.pending[move.device] === move.to)
