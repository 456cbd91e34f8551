import type { Task } from './schedule'

/**
 * The same tasks without the waits that follow from others: of many actions each waits for all before it that move the
 * laptop, and only the last of these counts.
 */
export function reduced(tasks: readonly Task[]): readonly Task[] {
  // By task: the least seconds from the end of an earlier one to its own start, -1 where it does not wait for it.
  const distances: Float64Array[] = []
  return tasks.map((task, index) => {
    const own = new Float64Array(index).fill(-1)
    distances.push(own)
    const waits = [...task.waits]
      .sort((a, b) => b.after - a.after)
      .filter(({ after, seconds }) => {
        if ((own[after] ?? -1) >= seconds) return false
        own[after] = seconds
        const through = seconds + (tasks[after]?.seconds ?? 0)
        distances[after]?.forEach((far, earlier) => {
          if (far >= 0) own[earlier] = Math.max(own[earlier] ?? -1, far + through)
        })
        return true
      })
    return { ...task, waits }
  })
}
