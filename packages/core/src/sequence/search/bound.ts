import { type CompiledJob, isLive, type State } from '../model'

/** What is at least still to be done, by kind of action; `weighed` is the sum in the order the job prefers. */
interface Remaining {
  readonly weighed: number
  readonly laptopChanges: number
  readonly powerActions: number
  readonly settings: number
  readonly seconds: number
}

/**
 * A lower bound of what a state still costs: each kind of action is counted as if the others were free.
 *
 * - settings: every device that is neither at its target nor has it waiting;
 * - power: every group that is off, and an off and on for each with something that waits for it;
 * - cable and leads: back to the switch, each lead that is out put in, or the cable gone into its device;
 * - laptop: every subnet it still has to be in; with one address, once more for each subnet that has to be left and
 *   returned to, which is the least number of subnets that break every circle of "set here, verify there".
 */
export function remainingOf(compiled: CompiledJob, state: State): Remaining {
  const { job, weight } = compiled
  let weighed = 0
  let seconds = 0
  let settings = 0
  const cycles = new Uint8Array(compiled.members.length)
  const needed = new Set<number>()
  const arcs = new Map<number, Set<number>>()
  compiled.devices.forEach((facts, device) => {
    if (facts.frozen) return
    if (state.verified[device] && state.at[device] === facts.target && (state.pending[device] ?? -1) < 0) return
    const to = compiled.spots[facts.target]?.subnet ?? -1
    needed.add(to)
    const pending = state.pending[device] ?? -1
    const at = state.at[device] ?? -1
    if (at === facts.target || pending === facts.target) {
      if (at !== facts.target && isLive(compiled, state, device)) cycles[facts.group] = 1
      return
    }
    settings += 1
    seconds += facts.handsOn
    weighed += weight.set[device] ?? 0
    if (facts.cycles) cycles[facts.group] = isLive(compiled, state, device) ? 1 : 2
    if (facts.local || at < 0 || pending >= 0) return
    const from = compiled.spots[at]?.subnet ?? -1
    needed.add(from)
    if (from !== to) arcs.set(from, (arcs.get(from) ?? new Set()).add(to))
  })
  let powerActions = 0
  job.groups.forEach((group, index) => {
    if (!compiled.switched[index]) return
    const times = (state.on[index] ? 0 : 1) + (cycles[index] === 0 ? 0 : 2)
    // Off, with something waiting already: one putting on is enough; cycles counts only what still has to be set.
    powerActions += times
    seconds += times * group.seconds
    weighed += times * (weight.group[index] ?? 0)
  })
  if (state.cable >= 0) {
    weighed += weight.cable
    seconds += job.seconds.cableMove
  }
  for (let device = 0; device < state.out.length; device += 1) {
    if (state.out[device] === 0 || compiled.devices[device]?.frozen) continue
    weighed += Math.min(weight.lead, weight.cable)
    seconds += Math.min(job.seconds.leadMove, job.seconds.cableMove)
  }
  const laptopChanges = laptopChangesLeft(state.laptop, needed, arcs, job.laptop.holds)
  return {
    weighed: weighed + laptopChanges * weight.laptop,
    seconds: seconds + laptopChanges * job.seconds.laptopChange,
    laptopChanges,
    powerActions,
    settings,
  }
}

/** The least number of changes that put the laptop into every subnet needed, each arc's first end before its second. */
function laptopChangesLeft(
  held: readonly number[],
  needed: Set<number>,
  arcs: Map<number, Set<number>>,
  holds: number,
): number {
  if (holds > 1 || held.length === 0) {
    const anew = [...needed].filter((subnet) => !held.includes(subnet)).length
    return holds > 1 ? anew : anew + circlesToBreak(arcs)
  }
  const now = held[0] ?? -1
  // What leaves from where the laptop is, is served by its being there now.
  arcs.delete(now)
  const returns = [...arcs.values()].some((ends) => ends.has(now))
  if (!returns) needed.delete(now)
  else needed.add(now)
  return needed.size + circlesToBreak(arcs)
}

/** Above this many choices the search for the least set stops and counts separate circles instead: still a lower bound. */
const MOST_CHOICES = 20_000

const known = new Map<string, number>()

/** The least number of subnets whose removal leaves no circle among the arcs. */
export function circlesToBreak(arcs: ReadonlyMap<number, ReadonlySet<number>>): number {
  const core = withoutLooseEnds(arcs)
  if (core.size === 0) return 0
  const key = [...core]
    .map(([from, to]) => `${from}>${[...to].sort((a, b) => a - b).join()}`)
    .sort()
    .join(';')
  const before = known.get(key)
  if (before !== undefined) return before
  const counter = { left: MOST_CHOICES }
  let count = separateCircles(core)
  while (!breaksWith(core, count, counter)) count += 1
  const answer = counter.left > 0 ? count : separateCircles(core)
  if (known.size > 5_000) known.clear()
  known.set(key, answer)
  return answer
}

type Arcs = ReadonlyMap<number, ReadonlySet<number>>

/** Only what lies on some circle, or between two. */
function withoutLooseEnds(arcs: Arcs): Map<number, Set<number>> {
  const left = new Map([...arcs].map(([from, to]) => [from, new Set(to)]))
  for (let changed = true; changed;) {
    changed = false
    const entered = new Set([...left.values()].flatMap((ends) => [...ends]))
    for (const [from, ends] of left) {
      for (const end of ends) if (!left.has(end)) changed = ends.delete(end) || changed
      if (ends.size === 0 || !entered.has(from)) changed = left.delete(from) || changed
    }
  }
  return left
}

function without(arcs: Arcs, subnet: number): Map<number, Set<number>> {
  const left = new Map([...arcs].map(([from, to]) => [from, new Set(to)]))
  left.delete(subnet)
  for (const ends of left.values()) ends.delete(subnet)
  return withoutLooseEnds(left)
}

function breaksWith(arcs: Arcs, count: number, counter: { left: number }): boolean {
  if (arcs.size === 0) return true
  counter.left -= 1
  if (counter.left <= 0) return true
  if (count < 1) return false
  return shortestCircle(arcs).some((subnet) => breaksWith(without(arcs, subnet), count - 1, counter))
}

/** Circles that share no subnet: each of them needs a return of its own. */
function separateCircles(arcs: Arcs): number {
  let left = withoutLooseEnds(arcs)
  let count = 0
  while (left.size > 0) {
    count += 1
    for (const subnet of shortestCircle(left)) left = without(left, subnet)
  }
  return count
}

/** Subnets of a shortest circle. There must be one. */
function shortestCircle(arcs: Arcs): readonly number[] {
  let best: readonly number[] = []
  for (const start of arcs.keys()) {
    const cameFrom = new Map<number, number>([[start, -1]])
    const queue = [start]
    for (let head = 0; head < queue.length; head += 1) {
      const from = queue[head] ?? -1
      for (const to of arcs.get(from) ?? []) {
        if (to === start) {
          const circle: number[] = []
          for (let at = from; at !== -1; at = cameFrom.get(at) ?? -1) circle.push(at)
          if (best.length === 0 || circle.length < best.length) best = circle
          queue.length = 0
          break
        }
        if (!cameFrom.has(to)) queue.push((cameFrom.set(to, from), to))
      }
    }
  }
  return best
}
