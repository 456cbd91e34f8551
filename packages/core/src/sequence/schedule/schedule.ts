import { boundOf } from './bound'
import { improved } from './improve'
import type { Wait } from './precedence'
import { reduced } from './reduced'
import { Timeline } from './timeline'

/** One thing to do, with hands on. Times are seconds. */
export interface Task {
  readonly seconds: number
  readonly needsLaptop: boolean
  /** Isolation zone it is done in; `null` where none is entered. Only one zone is worked in at a time. */
  readonly zone: string | null
  readonly waits: readonly Wait[]
  /** When it really began, for what is done or in hand. */
  readonly began?: number
}

export interface Schedule {
  /** By task, seconds from the start. */
  readonly starts: readonly number[]
  readonly finish: number
  /** No schedule finishes earlier. */
  readonly bound: number
  readonly proven: boolean
}

/** Placements of tasks tried before the best schedule so far is taken. */
const USUAL_EFFORT = 150_000
/** Of these, the share that the search through all orders of placing has; of many tasks it sees too few to find more. */
const EXACT_SHARE = 0.25
const exactEffort = (effort: number, taskCount: number): number =>
  Math.min(effort * EXACT_SHARE, (100 * 100 * 100) / Math.max(1, taskCount))

/**
 * When to do what, so that waiting times overlap with other work: tasks are placed one after the other, each as early
 * as people, laptop and zones allow. The order of placing is searched through, the most urgent first; where that takes
 * too long, the best schedule so far is made shorter step by step.
 *
 * @param given in an order in which each comes after all it waits for
 * @param notBefore what has not begun yet does not begin earlier: now, when work is under way
 * @param isLate whether the time for it is over; a first schedule is made all the same
 */
export function scheduleOf(
  given: readonly Task[],
  people: 1 | 2,
  notBefore = 0,
  effort = USUAL_EFFORT,
  isLate: () => boolean = () => false,
): Schedule {
  const tasks = reduced(given)
  const tails = tailsOf(tasks)
  const bound = boundOf(tasks, tails, people, notBefore)
  // The most urgent first: what the longest rest of the work waits for. Its own seconds do not make a task urgent.
  const rest = (index: number): number => (tails[index] ?? 0) - (tasks[index]?.seconds ?? 0)
  const order = tasks.map((_, index) => index).sort((a, b) => rest(b) - rest(a) || a - b)
  const timeline = new Timeline(tasks, people, notBefore)
  const search = new Search(timeline, tails, order, bound, exactEffort(effort, tasks.length), isLate)
  search.run()
  if (search.best.finish <= bound || !search.gaveUp) return { ...search.best, bound, proven: true }
  let left = effort * (1 - EXACT_SHARE)
  const best = improved(timeline, tails, search.best, bound, (placements) => (left -= placements) <= 0 || isLate())
  return { ...best, bound, proven: best.finish <= bound }
}

/** By task: seconds from its start to the end of everything that waits for it. */
function tailsOf(tasks: readonly Task[]): readonly number[] {
  const tails = tasks.map((task) => task.seconds)
  for (let later = tasks.length - 1; later >= 0; later -= 1)
    for (const { after, seconds } of tasks[later]?.waits ?? [])
      tails[after] = Math.max(tails[after] ?? 0, (tasks[after]?.seconds ?? 0) + seconds + (tails[later] ?? 0))
  return tails
}

/** A depth-first search over orders of placing, cut off where even the shortest tail comes too late. */
class Search {
  best: { starts: readonly number[]; finish: number } = { starts: [], finish: Infinity }
  /** It did not see every order that could be better. */
  gaveUp = false

  constructor(
    readonly timeline: Timeline,
    readonly tails: readonly number[],
    readonly order: readonly number[],
    readonly bound: number,
    public left: number,
    readonly isLate: () => boolean,
  ) {}

  run(): void {
    this.#place(this.timeline.placed.filter((placed) => !placed).length)
  }

  #place(open: number): void {
    const { tasks, starts, placed } = this.timeline
    if (open === 0) {
      const finish = tasks.reduce((latest, task, index) => Math.max(latest, (starts[index] ?? 0) + task.seconds), 0)
      if (finish < this.best.finish) this.best = { starts: [...starts], finish }
      return
    }
    for (const index of this.order) {
      if (this.best.finish <= this.bound) return
      const task = tasks[index]
      if (!task || placed[index] || task.waits.some(({ after }) => !placed[after])) continue
      if (this.best.finish < Infinity && (this.gaveUp || this.left <= 0 || this.isLate())) {
        this.gaveUp = true
        return
      }
      this.left -= 1
      const start = this.timeline.earliest(task)
      // Later placing never lets it begin earlier: this order and all that follow it are no better.
      if (start + (this.tails[index] ?? 0) >= this.best.finish) return
      this.timeline.place(index, start)
      this.#place(open - 1)
      this.timeline.remove(index)
    }
  }
}
