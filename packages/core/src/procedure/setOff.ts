import type { StepKind } from './run'
import { isSettled, type Stop, type WalkStep } from './walk'

/** What is done while a clock runs. */
const WHILE_IT_RUNS: readonly StepKind[] = ['expect', 'record']

/**
 * Waits that begin when a step is done, without anybody saying so: what follows it at once, over what is only looked at
 * meanwhile. A step sets off a wait where it gives power or writes, or brings the laptop where it can see; of several in
 * turn, the last.
 */
export function waitsSetOffBy(stop: Stop, done: WalkStep): readonly WalkStep[] {
  // With the laptop where the device is to be seen, the wait for it can begin.
  const isPlaced = done.step.laptop !== undefined && done.step.check !== undefined
  if (!isPlaced && !done.step.acts?.some((act) => act === 'powers' || act === 'writes')) return []
  const after = stop.steps.slice(stop.steps.findIndex(({ key }) => key === done.key) + 1)
  const waits: WalkStep[] = []
  for (const each of after) {
    if (each.blocks && !isSettled(each)) break
    if (each.step.kind === 'wait') {
      if (!each.record) waits.push(each)
    } else if (!WHILE_IT_RUNS.includes(each.step.kind) && !(each.step.kind === 'turn' && isSettled(each))) break
  }
  return waits
}
