import { chance } from '../chance'
import type { Task } from './schedule'
import type { Timeline } from './timeline'

interface Found {
  readonly starts: readonly number[]
  readonly finish: number
}

/**
 * Makes a schedule shorter by moving one task at a time to another place in the order of placing, within what it waits
 * for and what waits for it, and placing all anew. A schedule as long as before is taken too: it may lead on.
 *
 * @param tails by task: seconds from its start to the end of everything that waits for it
 * @param isOver whether the time or the placements are used up
 */
export function improved(
  timeline: Timeline,
  tails: readonly number[],
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
  const next = chance()
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
    const finish = placeAll(timeline, order, tails, now)
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

/**
 * Places tasks one after the other, each as early as it can begin. Returns the finish; `Infinity` as soon as it is later
 * than `latest`.
 */
export function placeAll(
  timeline: Timeline,
  order: readonly number[],
  tails: readonly number[],
  latest: number,
): number {
  const { tasks } = timeline
  timeline.clear()
  for (const index of order) {
    const start = timeline.earliest(tasks[index] as Task)
    if (start + (tails[index] ?? 0) > latest) return Infinity
    timeline.place(index, start)
  }
  return tasks.reduce((finish, task, index) => Math.max(finish, (timeline.starts[index] ?? 0) + task.seconds), 0)
}
