import type { Task } from './schedule'

/**
 * Tasks placed in time so far, and where the next one fits: people, laptop and zones as they are taken. Written for
 * being asked many thousand times: nothing is made anew for a question.
 */
export class Timeline {
  readonly starts: number[]
  readonly placed: boolean[]
  /** Placed tasks that take time, by their start. */
  readonly #work: number[] = []
  /** No task is longer: what began longer ago is over. */
  readonly #longest: number
  /** Moments at which the laptop looks, in order. */
  readonly #looks: number[] = []

  constructor(
    readonly tasks: readonly Task[],
    readonly people: number,
    readonly notBefore: number,
  ) {
    this.starts = tasks.map((task) => task.began ?? -1)
    this.placed = tasks.map(() => false)
    this.#longest = tasks.reduce((longest, task) => Math.max(longest, task.seconds), 0)
    tasks.forEach((task, index) => task.began !== undefined && this.place(index, task.began))
  }

  place(index: number, start: number): void {
    this.starts[index] = start
    this.placed[index] = true
    const task = this.tasks[index]
    if (!task) return
    if (task.seconds > 0) insert(this.#work, index, (other) => (this.starts[other] ?? 0) > start)
    else if (task.needsLaptop) insert(this.#looks, start, (other) => other > start)
  }

  remove(index: number): void {
    this.placed[index] = false
    const task = this.tasks[index]
    if (!task) return
    if (task.seconds > 0) this.#work.splice(this.#work.lastIndexOf(index), 1)
    else if (task.needsLaptop) this.#looks.splice(this.#looks.lastIndexOf(this.starts[index] ?? 0), 1)
  }

  /** Takes away everything that has not begun. */
  clear(): void {
    this.tasks.forEach((task, index) => {
      if (task.began === undefined && this.placed[index]) this.placed[index] = false
    })
    this.#looks.length = 0
    this.#work.length = 0
    this.tasks.forEach((task, index) => task.began !== undefined && this.place(index, task.began))
  }

  /** The first moment at which a task can begin, with all that it waits for placed. */
  earliest(task: Task): number {
    let start = this.notBefore
    for (const { after, seconds } of task.waits)
      start = Math.max(start, (this.starts[after] ?? 0) + (this.tasks[after]?.seconds ?? 0) + seconds)
    for (;;) {
      const end = task.seconds === 0 ? this.#momentBlockedUntil(task, start) : this.#blockedUntil(task, start)
      if (end <= start) return start
      start = end
    }
  }

  /** An end of what stands in the way at a start, before which there is no room; the start itself where nothing does. */
  #blockedUntil(task: Task, start: number): number {
    const end = start + task.seconds
    const first = this.#firstAfter(start - this.#longest)
    let until = start
    let firstEnd = Infinity
    let most = 0
    for (let k = first; k < this.#work.length; k += 1) {
      const index = this.#work[k] as number
      const from = this.starts[index] as number
      if (from >= end) break
      const other = this.tasks[index] as Task
      const to = from + other.seconds
      if (to <= start) continue
      if (
        this.people === 1 ||
        (task.needsLaptop && other.needsLaptop) ||
        (task.zone !== null && other.zone !== null && task.zone !== other.zone)
      )
        until = Math.max(until, to)
      firstEnd = Math.min(firstEnd, to)
      if (until === start) most = Math.max(most, this.#atWork(Math.max(from, start), first, k, start))
    }
    if (task.needsLaptop)
      for (const at of this.#looks) {
        if (at >= end) break
        // Whoever has the laptop begins at a look, not across it.
        if (at > start) until = Math.max(until, at)
      }
    if (until > start) return until
    return most >= this.people ? firstEnd : start
  }

  /** The place of the first task that began after a moment. */
  #firstAfter(moment: number): number {
    let [low, high] = [0, this.#work.length]
    while (low < high) {
      const middle = (low + high) >> 1
      if ((this.starts[this.#work[middle] as number] as number) > moment) high = middle
      else low = middle + 1
    }
    return low
  }

  /** How many of the tasks between two places are at work at a moment and beyond a start. */
  #atWork(moment: number, first: number, last: number, start: number): number {
    let count = 0
    for (let k = first; k <= last; k += 1) {
      const index = this.#work[k] as number
      const from = this.starts[index] as number
      const to = from + (this.tasks[index] as Task).seconds
      if (to > start && from <= moment && moment < to) count += 1
    }
    return count
  }

  /** A look takes no time but needs the laptop: not in the middle of something else that has it. */
  #momentBlockedUntil(task: Task, start: number): number {
    if (!task.needsLaptop) return start
    let until = start
    for (let k = this.#firstAfter(start - this.#longest); k < this.#work.length; k += 1) {
      const index = this.#work[k] as number
      const from = this.starts[index] as number
      if (from >= start) break
      const other = this.tasks[index] as Task
      if (other.needsLaptop && start < from + other.seconds) until = Math.max(until, from + other.seconds)
    }
    return until
  }
}

function insert(list: number[], value: number, isAfter: (other: number) => boolean): void {
  let at = list.length
  while (at > 0 && isAfter(list[at - 1] as number)) at -= 1
  list.splice(at, 0, value)
}
