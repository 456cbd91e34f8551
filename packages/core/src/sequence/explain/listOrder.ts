import {
  addressAt,
  apply,
  type BringUpAction,
  type BringUpCost,
  type CompiledJob,
  copyOf,
  isLegal,
  isLive,
  type Move,
  startState,
  type State,
} from '../model'
import { costOfMoves } from '../planBringUp'
import { actionOf } from '../translate'

/** What list order costs: one device after the other, each finished before the next is begun. */
export type ListOrder =
  | { readonly kind: 'cost'; readonly cost: BringUpCost; readonly actions: readonly BringUpAction[] }
  /** It does not work: at this device the plain way ends. */
  | { readonly kind: 'stuck'; readonly deviceId: string }

/**
 * The plain way, as it is done without a plan: take off what may be taken off and clashes, then for each device in the
 * order of the list: put it on, put the laptop into its subnet, set it, power it off and on where that is needed, put
 * the laptop into its new subnet, look. It is stuck where a device meets an address that another holds.
 */
export function listOrderOf(compiled: CompiledJob, start: State = startState(compiled)): ListOrder {
  const { job } = compiled
  const state = copyOf(start)
  const moves: Move[] = []
  const make = (move: Move): boolean => {
    if (!isLegal(compiled, state, move)) return false
    apply(compiled, state, move)
    moves.push(move)
    return true
  }
  endFirstClashes(compiled, state, make)
  for (let device = 0; device < compiled.devices.length; device += 1)
    if (!compiled.devices[device]?.frozen && !finish(compiled, state, device, make))
      return { kind: 'stuck', deviceId: job.devices[device]?.id ?? '' }
  compiled.members.forEach((_, group) => make({ kind: 'group-on', group }))
  const lost = compiled.devices.findIndex(
    ({ frozen }, device) => !frozen && (!isLive(compiled, state, device) || !state.verified[device]),
  )
  if (lost >= 0) return { kind: 'stuck', deviceId: job.devices[lost]?.id ?? '' }
  return { kind: 'cost', cost: costOfMoves(compiled, moves), actions: moves.map((move) => actionOf(compiled, move)) }
}

/** Of devices that clash from the start all but the first are taken off. */
function endFirstClashes(compiled: CompiledJob, state: State, make: (move: Move) => boolean): void {
  compiled.devices.forEach(({ group }, device) => {
    const address = addressAt(compiled, state.at[device] ?? -1)
    if (address < 0 || !isLive(compiled, state, device)) return
    const earlier = compiled.devices.some(
      (_, other) =>
        other < device && isLive(compiled, state, other) && addressAt(compiled, state.at[other] ?? -1) === address,
    )
    if (earlier) make({ kind: 'group-off', group })
  })
}

function finish(compiled: CompiledJob, state: State, device: number, make: (move: Move) => boolean): boolean {
  const facts = compiled.devices[device]
  if (!facts) return false
  const { group, target } = facts
  const enter = (spot: number): void => {
    const subnet = compiled.spots[spot]?.subnet ?? -1
    if (!state.laptop.includes(subnet)) {
      const full = state.laptop.length >= compiled.job.laptop.holds
      make({ kind: 'laptop', subnet, leaves: full ? (state.laptop[0] ?? -1) : -1 })
    }
  }
  if (!isLive(compiled, state, device) && !make({ kind: 'group-on', group })) return false
  if (state.verified[device]) return true
  if (state.at[device] !== target && state.pending[device] !== target) {
    if (!facts.local && (state.at[device] ?? -1) >= 0) enter(state.at[device] ?? -1)
    if (!facts.reachesTarget || !make({ kind: 'set', device, to: target })) return false
  }
  if (state.at[device] !== target)
    if (!make({ kind: 'group-off', group }) || !make({ kind: 'group-on', group })) return false
  enter(target)
  return make({ kind: 'verify', device })
}
