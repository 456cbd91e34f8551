import { tables, type Table } from '../modbus'
import { leastStill } from './leastStill'
import { barBefore, costOf, mostOf, perSecond, requestOf, type Bar, type Place } from './span'
import type { PackedRequest, PackingRules } from './wanted'

/** A place with the index of the rate at which it is wanted: 0 is the fastest. */
export interface RatedPlace extends Place {
  readonly rate: number
}

/** How far what was asked for reaches, by rate; 0 where it no longer matters. And what it has cost so far. */
interface State {
  readonly ends: readonly number[]
  readonly cost: number
  readonly before: State | undefined
  /** The request that was begun to come here. */
  readonly begun: Begun | undefined
}

interface Begun {
  readonly rate: number
  readonly first: number
  readonly end: number
}

/** Beyond it the search is given up, and the caller packs rate by rate. Comparisons of one state with another. */
const MOST_COMPARISONS = 1_500_000

/** All values of a table that is asked at several rates. */
export interface RatedTable {
  readonly table: Table
  /** In order of address. */
  readonly places: readonly RatedPlace[]
  /** ms, the fastest first. */
  readonly rates: readonly number[]
  readonly bars: readonly Bar[]
  readonly rules: PackingRules
}

/**
 * The cheapest requests for values that are wanted at several rates: a request may ask faster than a value needs, and
 * then brings it along. Exact, by the places in order of address: a request begins at the first place that nothing begun
 * before it brings, and ends with a place that may be brought at its rate. Of the requests of one rate that are under
 * way only the farthest end counts, so that a state is one end for each rate. A state goes when another can have all
 * that it has for no more, if need be by one more request, and when it cannot come to less than what is known.
 *
 * @param enough cost of some way that is known, by the second
 * @returns `undefined` where the search would take too long
 */
export function packJointly(task: RatedTable, enough: number): readonly PackedRequest[] | undefined {
  const still = leastStill(task)
  const least = still(0, [])
  const effort = { comparisons: 0 }
  // The nearer the limit, the less has to be looked at, and mostly the cheapest is hardly dearer than the least possible.
  for (const share of [0.1, 0.3, 1]) {
    const best = cheapestBelow(task, (least + share * (enough - least)) * (1 + 1e-9), still, effort)
    if (effort.comparisons > MOST_COMPARISONS) return undefined
    if (best) return requestsOf(task, best)
  }
  return undefined
}

/** The cheapest end of all states that can come to no more than the limit. */
function cheapestBelow(
  task: RatedTable,
  limit: number,
  still: ReturnType<typeof leastStill>,
  effort: { comparisons: number },
): State | undefined {
  const { places, rates } = task
  let states: readonly State[] = [{ ends: rates.map(() => 0), cost: 0, before: undefined, begun: undefined }]
  for (let k = 0; k < places.length && effort.comparisons <= MOST_COMPARISONS; k += 1) {
    const from = places[k + 1]?.start ?? Infinity
    const all = statesAfter(task, k, states)
    // One made costs about as much time as four compared.
    effort.comparisons += 4 * all.length
    const after = all
      .map((state) => ({ ...state, ends: stillReaching(state.ends, from) }))
      .filter(({ cost, ends }) => cost + still(k + 1, ends) <= limit)
    states = worthKeeping(after, (rate, end) => costAt(task, rate, end - from), effort)
  }
  return states[0]
}

const costAt = ({ table, rates, rules }: RatedTable, rate: number, size: number): number =>
  costOf(table, size, rules) * perSecond(rates[rate] as number)

/** What can follow when a place is come to: it is brought already, or a request begins with it. */
function statesAfter(task: RatedTable, k: number, states: readonly State[]): readonly State[] {
  const place = task.places[k] as RatedPlace
  const ends = task.rates.map((_, rate) => (rate <= place.rate ? endsFrom(task, k, rate) : []))
  return states.flatMap((state) =>
    isBrought(state, place)
      ? [state]
      : ends.flatMap((own, rate) =>
          own.map((end) => ({
            ends: state.ends.with(rate, Math.max(state.ends[rate] as number, end)),
            cost: state.cost + costAt(task, rate, end - place.start),
            before: state,
            begun: { rate, first: place.start, end },
          })),
        ),
  )
}

const brings = ({ rate, first, end }: Begun, place: RatedPlace): boolean =>
  rate <= place.rate && first <= place.start && end >= place.end

const isBrought = ({ ends }: State, { rate, end }: RatedPlace): boolean =>
  ends.some((reached, at) => at <= rate && reached >= end)

/** An end counts while a place can still begin before it, and while no faster request reaches as far. */
function stillReaching(ends: readonly number[], from: number): readonly number[] {
  let farthest = 0
  return ends.map((end) => {
    if (end <= from || end <= farthest) return 0
    farthest = end
    return end
  })
}

/**
 * Where a request that begins at a place may end: with each place that it may bring, up to the device's maximum, a bar,
 * or a gap that costs as much as another request. One that brings nothing which is wanted so often asks too often.
 */
function endsFrom({ table, places, bars, rules }: RatedTable, from: number, rate: number): readonly number[] {
  const { start, end } = places[from] as RatedPlace
  const most = mostOf(table, rules)
  const ends = new Set<number>()
  let [reached, calledFor] = [end, Infinity]
  for (let at = from; at < places.length; at += 1) {
    const each = places[at] as RatedPlace
    if (each.start - start >= most || barBefore(bars, each.start) >= start) break
    if (each.rate < rate || each.end - start > most) continue
    if (isWorthParting(table, start, reached, each, rules)) break
    if (each.rate === rate) calledFor = Math.min(calledFor, each.end)
    reached = Math.max(reached, each.end)
    ends.add(each.end)
  }
  return [...ends].filter((each) => each >= Math.max(end, calledFor))
}

/** Whether two requests, one to the end before a gap and one from the place after it, cost no more than one over both. */
const isWorthParting = (table: Table, start: number, reached: number, next: Place, rules: PackingRules): boolean =>
  next.start > reached &&
  // Sixteen bits cost as one: where a stretch of them is cut makes up to one register of difference.
  rules.cost.perRequest + (tables[table].bits === 1 ? rules.cost.perRegister : 0) <=
    costOf(table, next.start - start, rules) - costOf(table, reached - start, rules)

/** States in order of cost, without those that another one can stand in for. */
function worthKeeping(
  states: readonly State[],
  costOfOneMore: (rate: number, end: number) => number,
  effort: { comparisons: number },
): readonly State[] {
  const cheapest = new Map<string, State>()
  for (const state of states) {
    const key = state.ends.join()
    if ((cheapest.get(key)?.cost ?? Infinity) > state.cost) cheapest.set(key, state)
  }
  const kept: State[] = []
  for (const state of [...cheapest.values()].sort((a, b) => a.cost - b.cost)) {
    if (effort.comparisons > MOST_COMPARISONS) break
    const at = kept.findIndex((other) => {
      effort.comparisons += 1
      return standsIn(other, state, costOfOneMore)
    })
    if (at < 0) kept.push(state)
    // What can stand in for one can mostly stand in for the next one too: it is asked first.
    else if (at > 0) kept.unshift(...kept.splice(at, 1))
  }
  return kept.sort((a, b) => a.cost - b.cost)
}

/** Whether one state, no dearer than another, reaches as far, or would with one more request for no more. */
function standsIn(one: State, other: State, costOfOneMore: (rate: number, end: number) => number): boolean {
  let rate = -1
  let end = 0
  let reached = 0
  let wanted = 0
  for (let at = 0; at < other.ends.length; at += 1) {
    reached = Math.max(reached, one.ends[at] as number)
    wanted = Math.max(wanted, other.ends[at] as number)
    if (wanted <= reached) continue
    if (rate < 0) rate = at
    end = wanted
  }
  return rate < 0 || one.cost + costOfOneMore(rate, end) <= other.cost
}

/** The requests that led to a state, each cut to what it brings. */
function requestsOf({ table, places, rates }: RatedTable, last: State): readonly PackedRequest[] {
  const begun: Begun[] = []
  for (let state: State | undefined = last; state; state = state.before) if (state.begun) begun.unshift(state.begun)
  const brought = begun.map((): RatedPlace[] => [])
  let from = 0
  for (const place of places) {
    while (from < begun.length && (begun[from] as Begun).end <= place.start) from += 1
    let at = from
    while (at < begun.length && !brings(begun[at] as Begun, place)) at += 1
    brought[at]?.push(place)
  }
  return begun.flatMap(({ rate }, k) => {
    const own = brought[k] ?? []
    return own.length === 0 ? [] : [requestOf(table, rates[rate] as number, own)]
  })
}
