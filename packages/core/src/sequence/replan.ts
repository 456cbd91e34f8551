import { formatSubnet, subnetOf } from '../address'
import { bringUp, type BringUpAnswer } from './bringUp'
import {
  apply,
  type BringUpAction,
  type BringUpJob,
  type CompiledJob,
  compileJob,
  copyOf,
  costOf,
  type HostAddress,
  isDone,
  isLegal,
  type Move,
  sameSpot,
  startState,
  type State,
} from './model'
import { explainConflict, listOrderOf, smallestConflict } from './explain'
import { costOfMoves, orderFrom } from './planBringUp'

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
  effort?: number,
): BringUpAnswer {
  const few = smallestConflict(job, 1, 2)
  if (few) return { kind: 'impossible', ...explainConflict(job, few) }
  const compiled = compileJob(job)
  const start = startState(compiled)
  follow(compiled, start, begun)
  const fresh = orderFrom(compiled, start, effort)
  if (!fresh) return bringUp(job, effort)
  const weighed = (moves: readonly Move[]) => moves.reduce((sum, move) => sum + costOf(compiled, move), 0)
  const freshMoves = fresh.actions.flatMap((action) => moveOf(compiled, action) ?? [])
  const state = copyOf(start)
  const kept = follow(compiled, state, previous)
  const rest = isDone(state) ? { actions: [] } : orderFrom(compiled, state, effort)
  const keptMoves = [...kept, ...(rest?.actions ?? [])].flatMap((action) => moveOf(compiled, action) ?? [])
  const keeps = rest !== undefined && weighed(keptMoves) <= weighed(freshMoves)
  const listOrder = listOrderOf(job)
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

/** An action of the job in numbers; `undefined` where the job does not have what it names. */
function moveOf(compiled: CompiledJob, action: BringUpAction): Move | undefined {
  const { job, spots, subnets } = compiled
  const deviceOf = (id: string) => job.devices.findIndex((device) => device.id === id)
  const subnetAt = (of: HostAddress): number => {
    const text = formatSubnet(subnetOf(of.address, of.prefix))
    return subnets.findIndex((subnet) => formatSubnet(subnet) === text)
  }
  switch (action.kind) {
    case 'laptop': {
      const subnet = subnetAt(action.into)
      return subnet < 0 ? undefined : { kind: 'laptop', subnet, leaves: action.leaves ? subnetAt(action.leaves) : -1 }
    }
    case 'cable': {
      const device = action.into === 'switch' ? -1 : deviceOf(action.into)
      return action.into !== 'switch' && device < 0 ? undefined : { kind: 'cable', device }
    }
    case 'set': {
      const device = deviceOf(action.deviceId)
      const to = spots.findIndex((spot) => sameSpot(spot, action.to))
      return device < 0 || to < 0 ? undefined : { kind: 'set', device, to }
    }
    case 'verify': {
      const device = deviceOf(action.deviceId)
      return device < 0 ? undefined : { kind: 'verify', device }
    }
    default: {
      const group = job.groups.findIndex((each) => each.id === action.groupId)
      return group < 0 ? undefined : { kind: action.kind, group }
    }
  }
}
