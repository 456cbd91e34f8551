import {
  besideFrozen,
  chainedTwins,
  impossibleAlone,
  precedenceOf,
  replan,
  scheduleOf,
  type BringUpAction,
  type BringUpAnswer,
  type BringUpJob,
  type Schedule,
  type Task,
  USUAL_EFFORT,
} from '../sequence'

/** Devices that cannot be walked as things are, and what would help. */
export interface LeftOut {
  readonly deviceIds: readonly string[]
  readonly why: string
  readonly help: readonly string[]
  /** Of these, devices that are not in the order and whose network lead, pulled, would do. */
  readonly leadsOf: readonly string[]
}

/** The order with its times. Schedule and tasks run along the actions, which stand in the order they begin in. */
export interface WalkPlan {
  readonly answer: Extract<BringUpAnswer, { kind: 'order' }>
  readonly leftOut: readonly LeftOut[]
  readonly tasks: readonly Task[]
  readonly schedule: Schedule
  /** Finish of list order when every wait is sat out, from where things stand now; left out where it gets stuck. */
  readonly sequential?: number
}

/** More sets than this are not taken out one after the other. */
const MOST_LEFT_OUT = 12
/** The share of the time that the order may take; the rest is for the times. */
const ORDER_SHARE = 0.6

/**
 * How long a plan may take, in milliseconds: a fifth of a second up to 40 devices, a second for 100, five for 400.
 * Within it the answer is as good as was found, with its bound.
 */
export function usualTime(deviceCount: number): number {
  if (deviceCount <= 40) return 160
  if (deviceCount <= 100) return 160 + ((deviceCount - 40) * 740) / 60
  return Math.min(4_500, 900 + ((deviceCount - 100) * 3_600) / 300)
}

/** States of the order and steps of the schedule that a job of fifteen devices is given on however slow a machine. */
const LEAST_WORK = { states: 2_000, looks: 60_000 }

/**
 * A clock that a job is not measured by before some work is done: the plan of a small job is the same on a slow
 * machine as on a quick one. A larger job's work is dearer, so it has less of it for certain.
 */
function patient(past: () => number, work: number, deviceCount: number): () => number {
  const least = work / Math.max(1, deviceCount / 15) ** 4
  let asked = 0
  return () => ((asked += 1) <= least ? 0 : past())
}

/**
 * Plans the walk. Devices that make it impossible are left out, smallest set first, and said; the rest is planned beside
 * them, for they stay in the plant.
 *
 * @param begun actions in hand; `previous` what was planned after them
 * @param milliseconds how long it may take; `Infinity` where only the effort counts
 */
export function planWalk(
  job: BringUpJob,
  begun: readonly BringUpAction[],
  previous: readonly BringUpAction[],
  people: 1 | 2,
  milliseconds = usualTime(job.devices.length),
): WalkPlan | { readonly leftOut: readonly LeftOut[]; readonly tooLarge: true } {
  const start = performance.now()
  const used = (share: number, work: number) =>
    patient(() => (performance.now() - start) / (milliseconds * share), work, job.devices.length)
  const leftOut: LeftOut[] = []
  let rest = job
  const leave = (all: readonly LeftOut[]) => {
    const ids = new Set(all.flatMap(({ deviceIds }) => deviceIds))
    for (const each of all) {
      // Who was not in the order before is named, and is not left out once more.
      const deviceIds = each.deviceIds.filter((id) => !rest.devices.some((device) => device.frozen && device.id === id))
      leftOut.push({ ...each, deviceIds })
    }
    rest = { ...rest, devices: rest.devices.map((each) => (ids.has(each.id) ? { ...each, frozen: true } : each)) }
  }
  /** Who cannot be done beside what was left out is left out as well, as long as there is somebody. */
  const leaveBeside = () => {
    for (let more = besideFrozen(rest); more.length > 0; more = besideFrozen(rest)) leave(more)
  }
  leave(impossibleAlone(rest))
  leave(chainedTwins(rest))
  leaveBeside()
  for (let sets = 0; ; sets += 1) {
    const answer = replan(rest, begun, previous, { states: USUAL_EFFORT, used: used(ORDER_SHARE, LEAST_WORK.states) })
    if (answer.kind === 'order') {
      const tasks = tasksOf(rest, answer.actions)
      const { listOrder } = answer
      const sequential = listOrder.kind === 'cost' ? sequentialFinish(tasksOf(rest, listOrder.actions)) : undefined
      const past = used(1, LEAST_WORK.looks)
      const schedule = scheduleOf(tasks, people, 0, undefined, () => past() > 1)
      return { ...inTime(answer, tasks, schedule), leftOut, ...(sequential !== undefined && { sequential }) }
    }
    if (answer.kind === 'too-large' || sets >= MOST_LEFT_OUT) return { leftOut, tooLarge: true }
    leave([{ deviceIds: answer.deviceIds, why: answer.why, help: answer.help, leadsOf: answer.leadsOf }])
    leaveBeside()
  }
}

/** The same plan with its actions in the order in which they begin: that is how it is walked. */
function inTime(
  answer: WalkPlan['answer'],
  tasks: readonly Task[],
  schedule: Schedule,
): Pick<WalkPlan, 'answer' | 'tasks' | 'schedule'> {
  const order = tasks
    .map((_, index) => index)
    .sort((a, b) => (schedule.starts[a] ?? 0) - (schedule.starts[b] ?? 0) || a - b)
  const placeOf = new Map(order.map((index, place) => [index, place]))
  const picked = <T>(list: readonly T[]) => order.flatMap((index) => list[index] ?? [])
  return {
    answer: { ...answer, actions: picked(answer.actions) },
    tasks: picked(tasks).map((task) => ({
      ...task,
      waits: task.waits.map((wait) => ({ ...wait, after: placeOf.get(wait.after) ?? 0 })),
    })),
    schedule: { ...schedule, starts: order.map((index) => schedule.starts[index] ?? 0) },
  }
}

/** What the actions ask of people, laptop and zones. */
export function tasksOf(job: BringUpJob, actions: readonly BringUpAction[]): readonly Task[] {
  const waits = precedenceOf(job, actions)
  const devices = new Map(job.devices.map((device) => [device.id, device]))
  return actions.map((action, index): Task => {
    const of = { waits: waits[index] ?? [] }
    switch (action.kind) {
      case 'laptop':
        return { ...of, seconds: job.seconds.laptopChange, needsLaptop: true, zone: null }
      case 'cable':
        return { ...of, seconds: job.seconds.cableMove, needsLaptop: true, zone: null }
      case 'lead-out':
      case 'lead-in':
        return {
          ...of,
          seconds: job.seconds.leadMove,
          needsLaptop: false,
          zone: devices.get(action.deviceId)?.groupId ?? null,
        }
      case 'verify':
        return { ...of, seconds: 0, needsLaptop: true, zone: null }
      case 'set': {
        const device = devices.get(action.deviceId)
        const local = device?.access === 'local'
        return {
          ...of,
          seconds: device?.handsOnSeconds ?? 0,
          needsLaptop: !local,
          zone: local ? (device?.groupId ?? null) : null,
        }
      }
      default: {
        const group = job.groups.find((each) => each.id === action.groupId)
        return { ...of, seconds: group?.seconds ?? 0, needsLaptop: false, zone: action.groupId }
      }
    }
  })
}

/** The finish when tasks are done one after the other as they stand, each wait sat out. */
export function sequentialFinish(tasks: readonly Task[]): number {
  const ends: number[] = []
  let free = 0
  tasks.forEach((task, index) => {
    const ready = task.waits.map(({ after, seconds }) => (ends[after] ?? 0) + seconds)
    free = Math.max(free, ...ready) + task.seconds
    ends[index] = free
  })
  return free
}
