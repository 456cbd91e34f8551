import type { Task } from './schedule'

interface OnOneHand {
  /** Not before this moment. */
  readonly head: number
  readonly seconds: number
  /** What must follow after its end. */
  readonly rest: number
}

/**
 * No schedule finishes earlier: the longest path; all work by so many people; and what one hand does, were it allowed to
 * be interrupted: at every moment the task with the longest rest of those that can be done.
 *
 * @param tails by task: seconds from its start to the end of everything that waits for it
 * @source J. Carlier, "The one-machine sequencing problem" (1982), on Jackson's preemptive schedule; from memory
 */
export function boundOf(tasks: readonly Task[], tails: readonly number[], people: number, notBefore: number): number {
  const heads: number[] = []
  let path = 0
  tasks.forEach((task, index) => {
    let head = notBefore
    for (const { after, seconds } of task.waits)
      head = Math.max(head, (heads[after] ?? 0) + (tasks[after]?.seconds ?? 0) + seconds)
    heads[index] = task.began ?? head
    path = Math.max(path, (heads[index] ?? 0) + (tails[index] ?? 0))
  })
  const chosen = (counts: (task: Task) => boolean): readonly OnOneHand[] =>
    tasks.flatMap((task, index) =>
      task.began === undefined && task.seconds > 0 && counts(task)
        ? [{ head: heads[index] ?? 0, seconds: task.seconds, rest: (tails[index] ?? 0) - task.seconds }]
        : [],
    )
  const all = chosen(() => true)
  return Math.max(
    path,
    people === 1 ? interrupted(all) : shared(all, people),
    interrupted(chosen((task) => task.needsLaptop)),
  )
}

/** Not before the first can begin, all of it by so many hands, and the least that must follow the last. */
function shared(list: readonly OnOneHand[], hands: number): number {
  if (list.length === 0) return 0
  const sum = list.reduce((total, { seconds }) => total + seconds, 0)
  return Math.min(...list.map(({ head }) => head)) + sum / hands + Math.min(...list.map(({ rest }) => rest))
}

function interrupted(list: readonly OnOneHand[]): number {
  const waiting = [...list].sort((a, b) => a.head - b.head)
  const left = new Map(list.map((each) => [each, each.seconds]))
  const ready: OnOneHand[] = []
  let now = 0
  let finish = 0
  let next = 0
  while (next < waiting.length || ready.length > 0) {
    if (ready.length === 0) now = Math.max(now, waiting[next]?.head ?? now)
    while (next < waiting.length && (waiting[next]?.head ?? Infinity) <= now) ready.push(waiting[next++] as OnOneHand)
    const one = ready.reduce((best, each) => (each.rest > best.rest ? each : best))
    const until = Math.min(now + (left.get(one) ?? 0), waiting[next]?.head ?? Infinity)
    left.set(one, (left.get(one) ?? 0) - (until - now))
    now = until
    if ((left.get(one) ?? 0) > 0) continue
    ready.splice(ready.indexOf(one), 1)
    finish = Math.max(finish, now + one.rest)
  }
  return finish
}
