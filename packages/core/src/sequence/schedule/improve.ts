import type { Timeline } from './timeline'

interface Found {
  readonly starts: readonly number[]
  readonly finish: number
}

/** Numbers that look random and are the same each time, so that a plan does not change by being looked at again. */
function steps(): (below: number) => number {
  let state = 1
  return (below) => {
    // A linear congruential step with the usual constants of a 32-bit word, from memory.
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0
    return Math.floor((state / 4_294_967_296) * below)
  }
}

/**
 * Makes a schedule shorter by moving one task at a time to another place in the order of placing, within what it waits
 * for and what waits for it, and placing all anew. A schedule as long as before is taken too: it may lead on.
 *
 * @param isOver whether the time or the placements are used up
 */
export function improved(
  timeline: Timeline,
  first: Found,
  bound: number,
  isOver: (placements: number) => boolean,
): Found {
  const { tasks } = timeline
  const open = tasks.flatMap((task, index) => (task.began === undefined ? [index] : []))
  // An order of placing that gives the schedule at hand: by start, what has to come before first.
  const order = [...open].sort((a, b) => (first.starts[a] ?? 0) - (first.starts[b] ?? 0) || a - b)
  const placeOf = new Int32Array(tasks.length).fill(-1)
  const number = () => order.forEach((index, place) => (placeOf[index] = place))
  number()
  const followers: number[][] = tasks.map(() => [])
  for (const index of open) for (const { after } of tasks[index]?.waits ?? []) followers[after]?.push(index)
  const next = steps()
  let best = first
  let now = first.finish
  while (order.length > 1 && best.finish > bound && !isOver(order.length)) {
    const from = next(order.length)
    const index = order[from] as number
    const lowest = 1 + Math.max(-1, ...(tasks[index]?.waits ?? []).map(({ after }) => placeOf[after] ?? -1))
    const highest = Math.min(order.length, ...(followers[index] ?? []).map((other) => placeOf[other] ?? 0)) - 1
    if (highest <= lowest) continue
    const to = lowest + next(highest - lowest + 1)
    if (to === from) continue
    order.splice(from, 1)
    order.splice(to, 0, index)
    const finish = placeAll(timeline, order)
    if (finish <= now) {
      now = finish
      number()
      if (finish < best.finish) best = { starts: [...timeline.starts], finish }
    } else {
      order.splice(to, 1)
      order.splice(from, 0, index)
    }
  }
  return best
}

/** Places tasks one after the other, each as early as it can begin. Returns the finish. */
export function placeAll(timeline: Timeline, order: readonly number[]): number {
  const { tasks } = timeline
  timeline.clear()
  for (const index of order) {
    const task = tasks[index]
    if (task) timeline.place(index, timeline.earliest(task))
  }
  return tasks.reduce((finish, task, index) => Math.max(finish, (timeline.starts[index] ?? 0) + task.seconds), 0)
}
