import {
  apply,
  type CompiledJob,
  copyOf,
  costOf,
  factsOf,
  type Facts,
  isDone,
  isLegal,
  keepOrder,
  type Move,
  type State,
} from '../model'

interface Way {
  readonly state: State
  /** By move: 1 when it was made. */
  readonly made: Uint8Array
  /** By move: how many of those it waits for are open. */
  readonly open: Int16Array
  /** Moves that wait for nothing but the laptop. */
  readonly ready: readonly number[]
  readonly moves: readonly Move[]
  readonly cost: number
  /** Moves made and devices found. */
  readonly count: number
}

/** What keeps its order, by number, and who waits for whom. */
interface Work {
  readonly compiled: CompiledJob
  readonly kept: readonly Move[]
  readonly followers: readonly (readonly number[])[]
  readonly open: Int16Array
}

/**
 * The same moves with the laptop moved less often: whatever really has to keep its order does, the rest is done where
 * the laptop is, and of the ways to go on those that have done most are followed. Looks are made wherever they can be.
 *
 * @param moves a legal plan from `start` to the end
 * @param width ways on that are kept after each change of the laptop
 * @returns `undefined` where nothing cheaper was found
 */
export function fewerVisits(
  compiled: CompiledJob,
  start: State,
  moves: readonly Move[],
  width: number,
): readonly Move[] | undefined {
  const cost = moves.reduce((total, move) => total + costOf(compiled, move), 0)
  const work = workOf(compiled, start, moves)
  const none = { made: new Uint8Array(work.kept.length), moves: [], cost: 0, count: 0 }
  const ready = work.kept.flatMap((_, index) => (work.open[index] === 0 ? [index] : []))
  let ways: readonly Way[] = [goneOn(work, { ...none, state: copyOf(start), open: work.open, ready })]
  for (;;) {
    const done = ways.filter(({ state }) => isDone(compiled, state))
    const [best] = done.sort((a, b) => a.cost - b.cost)
    if (best) return best.cost < cost ? best.moves : undefined
    const next = new Map<string, Way>()
    for (const way of ways)
      for (const move of visitsFrom(compiled, way.state)) {
        const total = way.cost + costOf(compiled, move)
        if (total >= cost) continue
        const state = copyOf(way.state)
        apply(compiled, state, move)
        const [made, open] = [way.made.slice(), way.open.slice()]
        const after = goneOn(work, { ...way, state, made, open, moves: [...way.moves, move], cost: total })
        if (after.cost >= cost || after.count === way.count) continue
        const key = signOf(after)
        if ((next.get(key)?.cost ?? Infinity) > after.cost) next.set(key, after)
      }
    if (next.size === 0) return undefined
    ways = [...next.values()].sort((a, b) => b.count - a.count || a.cost - b.cost).slice(0, width)
  }
}

/** Moves of the laptop and looks are put in anew; all else keeps its order where it has to. */
function workOf(compiled: CompiledJob, start: State, moves: readonly Move[]): Work {
  const facts = factsOf(compiled, start, moves)
  const places = moves.flatMap(({ kind }, index) => (kind === 'laptop' || kind === 'verify' ? [] : [index]))
  const followers = places.map((): number[] => [])
  const open = new Int16Array(places.length)
  for (let later = 0; later < places.length; later += 1) {
    const b = facts[places[later] as number] as Facts
    for (let earlier = 0; earlier < later; earlier += 1) {
      if (!keepOrder(facts[places[earlier] as number] as Facts, b)) continue
      followers[earlier]?.push(later)
      open[later] = (open[later] ?? 0) + 1
    }
  }
  return { compiled, kept: places.flatMap((place) => moves[place] ?? []), followers, open }
}

/** Two ways that have done the same are one: a number of what was done, good enough to tell them apart. */
function signOf({ state, made }: Way): string {
  let [one, two] = [17, 91]
  for (const list of [made, state.verified])
    for (let index = 0; index < list.length; index += 1) {
      one = (Math.imul(one, 31) + (list[index] as number)) | 0
      two = (Math.imul(two, 37) + (list[index] as number)) | 0
    }
  return `${state.laptop.join()} ${one} ${two}`
}

/** Does all that can be done where the laptop is. The state, and what is made and open, are the caller's own. */
function goneOn({ compiled, kept, followers }: Work, way: Way): Way {
  const { state, made, open } = way
  const moves = [...way.moves]
  let { cost, count } = way
  const looks = moves.length
  let ready = way.ready
  for (let waiting: readonly number[] | undefined; waiting !== ready;) {
    waiting = ready
    const left: number[] = []
    for (const index of waiting) {
      const move = kept[index] as Move
      if (!isLegal(compiled, state, move)) {
        left.push(index)
        continue
      }
      look(compiled, state, moves, goneBy(compiled, state, move))
      apply(compiled, state, move)
      moves.push(move)
      cost += costOf(compiled, move)
      made[index] = 1
      count += 1
      for (const follower of followers[index] ?? []) {
        open[follower] = (open[follower] as number) - 1
        if (open[follower] === 0) left.push(follower)
      }
    }
    if (left.length !== waiting.length || left.some((index, place) => index !== waiting?.[place])) ready = left
  }
  look(compiled, state, moves, undefined)
  for (let place = looks; place < moves.length; place += 1) if (moves[place]?.kind === 'verify') count += 1
  return { ...way, moves, cost, count, ready }
}

/** Devices that cannot be looked at any more after a move; `undefined` for any. */
function goneBy(compiled: CompiledJob, state: State, move: Move): readonly number[] | undefined {
  if (move.kind === 'group-off') return compiled.members[move.group]
  if (move.kind === 'cable') return state.cable < 0 ? undefined : [state.cable]
  return move.kind === 'set' || move.kind === 'lead-out' ? [move.device] : []
}

function look(compiled: CompiledJob, state: State, moves: Move[], of: readonly number[] | undefined): void {
  const count = of?.length ?? state.verified.length
  for (let place = 0; place < count; place += 1) {
    const device = of ? (of[place] as number) : place
    if (state.verified[device]) continue
    const move: Move = { kind: 'verify', device }
    if (!isLegal(compiled, state, move)) continue
    apply(compiled, state, move)
    moves.push(move)
  }
}

/** Changes of the laptop into any subnet in which something is set or looked for. */
function visitsFrom(compiled: CompiledJob, state: State): readonly Move[] {
  const subnets = new Set<number>()
  compiled.devices.forEach(({ frozen, target }, device) => {
    if (frozen) return
    const at = state.at[device] ?? -1
    if (at !== target) subnets.add(compiled.spots[at]?.subnet ?? -1)
    if (!state.verified[device]) subnets.add(compiled.spots[target]?.subnet ?? -1)
  })
  return [...subnets].flatMap((subnet): readonly Move[] => {
    if (subnet < 0 || state.laptop.includes(subnet)) return []
    const leaves = state.laptop.length < compiled.job.laptop.holds ? [-1] : state.laptop
    return leaves
      .map((each): Move => ({ kind: 'laptop', subnet, leaves: each }))
      .filter((move) => isLegal(compiled, state, move))
  })
}
