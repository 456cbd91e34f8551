import { compileJob, factsOf, keepOrder, startState, type BringUpAction, type BringUpJob, type Facts } from '../model'
import { moveOf } from '../translate'

/** Which earlier actions one action has to wait for, and how long after their end. */
export interface Wait {
  /** Index of the earlier action. */
  readonly after: number
  readonly seconds: number
}

/**
 * What each action of an order really waits for: see `keepOrder`. What is put on, or restarts, needs its start-up time
 * before it is set, looked at or taken off again; whatever does not need it goes on meanwhile.
 */
export function precedenceOf(job: BringUpJob, actions: readonly BringUpAction[]): readonly (readonly Wait[])[] {
  const compiled = compileJob(job)
  const moves = actions.map((action) => {
    const move = moveOf(compiled, action)
    if (!move) throw new RangeError(`The job does not have what this action names: ${JSON.stringify(action)}`)
    return move
  })
  const facts = factsOf(compiled, startState(compiled), moves)
  return facts.map((b, later) => {
    const waits: Wait[] = []
    for (let earlier = 0; earlier < later; earlier += 1) {
      const a = facts[earlier] as Facts
      if (keepOrder(a, b)) waits.push({ after: earlier, seconds: lagBetween(a, b) })
    }
    return waits
  })
}

function lagBetween(a: Facts, b: Facts): number {
  if (a.startUp.size === 0) return 0
  if (b.kind === 'set' || b.kind === 'verify') return a.startUp.get(b.devices[0] ?? -1) ?? 0
  if (b.kind !== 'group-off') return 0
  return a.groups[0] === b.groups[0] ? Math.max(0, ...a.startUp.values()) : 0
}
