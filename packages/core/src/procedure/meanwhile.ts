import type { BringUpJob } from '../sequence'
import { tasksOf } from './planWalk'
import type { Stop } from './walk'

/**
 * The stop that may be done while another waits: it needs neither the laptop nor the waiting device nor its breaker, and
 * nothing that is still open has to come before it. `undefined` where there is none, and where the waiting stop is not
 * in the order: what a run beside the order does to the others is not known.
 */
export function meanwhile(given: BringUpJob, stops: readonly Stop[], waiting: Stop): Stop | undefined {
  const open = stops.filter((stop) => stop.action !== null && stop.state !== 'settled')
  const here = open.indexOf(waiting)
  if (here < 0) return undefined
  const tasks = tasksOf(
    given,
    open.flatMap(({ action }) => action ?? []),
  )
  const groupOf = (id: string) => given.devices.find((device) => device.id === id)?.groupId
  const busy = new Set([tasks[here]?.zone, ...waiting.deviceIds.map(groupOf)])
  return open.find((stop, place) => {
    const task = tasks[place]
    return (
      place !== here &&
      task !== undefined &&
      !task.needsLaptop &&
      task.waits.length === 0 &&
      !stop.held &&
      !busy.has(task.zone) &&
      !stop.deviceIds.some((id) => busy.has(groupOf(id))) &&
      // One that waits as well is no work.
      !stop.steps.some(({ record }) => record?.state === 'waiting')
    )
  })
}
