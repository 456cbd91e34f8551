import type { Wait } from './precedence'

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

/** Placements tried before the best schedule so far is taken. */
const USUAL_EFFORT = 40_000

/**
 * When to do what, so that waiting times overlap with other work: tasks are placed one after the other, each as early
 * as people, laptop and zones allow; the order of placing is searched through, the most urgent first.
 *
 * @param tasks in an order in which each comes after all it waits for
 * @param notBefore what has not begun yet does not begin earlier: now, when work is under way
 */
export function scheduleOf(tasks: readonly Task[], people: 1 | 2, notBefore = 0, effort = USUAL_EFFORT): Schedule {
  const tails = tailsOf(tasks)
  const bound = boundOf(tasks, tails, people, notBefore)
  // The most urgent first: what the longest rest of the work waits for. Its own seconds do not make a task urgent.
  const rest = (index: number): number => (tails[index] ?? 0) - (tasks[index]?.seconds ?? 0)
  const order = tasks.map((_, index) => index).sort((a, b) => rest(b) - rest(a) || a - b)
  const search = new Search(tasks, people, notBefore, tails, order, bound, effort)
  search.run()
  return { ...search.best, bound, proven: search.best.finish <= bound || search.left > 0 }
}

/** By task: seconds from its start to the end of everything that waits for it. */
function tailsOf(tasks: readonly Task[]): readonly number[] {
  const tails = tasks.map((task) => task.seconds)
  for (let later = tasks.length - 1; later >= 0; later -= 1)
    for (const { after, seconds } of tasks[later]?.waits ?? [])
      tails[after] = Math.max(tails[after] ?? 0, (tasks[after]?.seconds ?? 0) + seconds + (tails[later] ?? 0))
  return tails
}

function boundOf(tasks: readonly Task[], tails: readonly number[], people: number, notBefore: number): number {
  const heads: number[] = []
  tasks.forEach((task, index) => {
    const ready = task.waits.map(({ after, seconds }) => (heads[after] ?? 0) + (tasks[after]?.seconds ?? 0) + seconds)
    heads[index] = task.began ?? Math.max(notBefore, ...ready)
  })
  const path = Math.max(0, ...tasks.map((_, index) => (heads[index] ?? 0) + (tails[index] ?? 0)))
  // What one hand at a time does: not before the first can begin, all of it, and what must follow the last.
  const oneByOne = (counts: (task: Task) => boolean, hands: number): number => {
    const chosen = tasks.flatMap((task, index) => (task.began === undefined && counts(task) ? [{ task, index }] : []))
    if (chosen.length === 0) return 0
    const sum = chosen.reduce((total, { task }) => total + task.seconds, 0)
    const first = Math.min(...chosen.map(({ index }) => heads[index] ?? 0))
    const rest = Math.min(...chosen.map(({ task, index }) => (tails[index] ?? 0) - task.seconds))
    return first + sum / hands + rest
  }
  return Math.max(
    path,
    oneByOne(() => true, people),
    oneByOne((task) => task.needsLaptop, 1),
  )
}

/** A depth-first search over orders of placing, cut off where even the shortest tail comes too late. */
class Search {
  best: { starts: readonly number[]; finish: number } = { starts: [], finish: Infinity }
  left: number
  readonly #starts: number[]
  readonly #placed: boolean[]

  constructor(
    readonly tasks: readonly Task[],
    readonly people: number,
    readonly notBefore: number,
    readonly tails: readonly number[],
    readonly order: readonly number[],
    readonly bound: number,
    effort: number,
  ) {
    this.left = effort
    this.#starts = tasks.map((task) => task.began ?? -1)
    this.#placed = tasks.map((task) => task.began !== undefined)
  }

  run(): void {
    this.#place(this.#placed.filter((placed) => !placed).length)
  }

  #place(open: number): void {
    if (open === 0) {
      const finish = Math.max(0, ...this.tasks.map((task, index) => (this.#starts[index] ?? 0) + task.seconds))
      if (finish < this.best.finish) this.best = { starts: [...this.#starts], finish }
      return
    }
    for (const index of this.order) {
      if (this.best.finish <= this.bound || (this.left <= 0 && this.best.finish < Infinity)) return
      const task = this.tasks[index]
      if (!task || this.#placed[index] || task.waits.some(({ after }) => !this.#placed[after])) continue
      this.left -= 1
      const start = this.#earliest(task)
      if (start + (this.tails[index] ?? 0) >= this.best.finish) {
        // Later placing never lets it begin earlier: this order and all that follow it are no better.
        return
      }
      this.#starts[index] = start
      this.#placed[index] = true
      this.#place(open - 1)
      this.#placed[index] = false
    }
  }

  #earliest(task: Task): number {
    const ready = task.waits.map(
      ({ after, seconds }) => (this.#starts[after] ?? 0) + (this.tasks[after]?.seconds ?? 0) + seconds,
    )
    let start = Math.max(this.notBefore, ...ready)
    for (;;) {
      const end = this.#blockedUntil(task, start)
      if (end <= start) return start
      start = end
    }
  }

  /** The first end of what stands in the way at a start; the start itself where nothing does. */
  #blockedUntil(task: Task, start: number): number {
    if (task.seconds === 0) return this.#momentBlockedUntil(task, start)
    const running = this.tasks.flatMap((other, index) => {
      const from = this.#starts[index] ?? 0
      const overlaps =
        this.#placed[index] && other.seconds > 0 && from < start + task.seconds && start < from + other.seconds
      return overlaps ? [{ other, from, to: from + other.seconds }] : []
    })
    let until = start
    for (const { other, to } of running)
      if (
        (task.needsLaptop && other.needsLaptop) ||
        (task.zone !== null && other.zone !== null && task.zone !== other.zone)
      )
        until = Math.max(until, to)
    if (task.needsLaptop) until = Math.max(until, this.#lookWithin(start, start + task.seconds))
    if (until > start) return until
    // Most people at work at one moment of its time.
    const moments = [start, ...running.map(({ from }) => from).filter((from) => from > start)]
    const busy = Math.max(...moments.map((at) => running.filter(({ from, to }) => from <= at && at < to).length))
    return busy >= this.people ? Math.min(...running.map(({ to }) => to)) : start
  }

  /** The last look that is placed strictly within a stretch: whoever has the laptop then begins at it, not across it. */
  #lookWithin(from: number, to: number): number {
    const looks = this.tasks.flatMap((other, index) => {
      const at = this.#starts[index] ?? 0
      return this.#placed[index] && other.needsLaptop && other.seconds === 0 && from < at && at < to ? [at] : []
    })
    return Math.max(from, ...looks)
  }

  /** A look takes no time but needs the laptop: not in the middle of something else that has it. */
  #momentBlockedUntil(task: Task, start: number): number {
    if (!task.needsLaptop) return start
    let until = start
    this.tasks.forEach((other, index) => {
      const from = this.#starts[index] ?? 0
      if (this.#placed[index] && other.needsLaptop && from < start && start < from + other.seconds)
        until = Math.max(until, from + other.seconds)
    })
    return until
  }
}
