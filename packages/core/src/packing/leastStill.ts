import type { Table } from '../modbus'
import type { RatedPlace, RatedTable } from './severalRates'
import { barBefore, costOf, mostOf, perSecond, type Bar } from './span'
import type { PackingRules } from './wanted'

/**
 * What the places from an index on cost at least, when requests already reach so far. A request costs as much as one at
 * the slowest rate, and something more for each faster step; what is wanted at a step or faster has to be brought by
 * requests that are as fast, and those cost no less than the cheapest at one rate.
 *
 * @returns a function of the next place and of how far requests reach, by rate
 */
export function leastStill({
  table,
  places,
  rates,
  bars,
  rules,
}: RatedTable): (next: number, ends: readonly number[]) => number {
  const steps = rates.map((pollMs, rate) => {
    const slower = rates[rate + 1]
    const more = perSecond(pollMs) - (slower === undefined ? 0 : perSecond(slower))
    const own = places.flatMap((place, index) => (place.rate <= rate ? [{ ...place, index }] : []))
    return { more, own, least: leastAtOneRate(table, own, bars, rules), from: firstAtOrAfter(own, places.length) }
  })
  return (next, ends) => {
    let [sum, reached] = [0, 0]
    steps.forEach(({ more, own, least, from }, rate) => {
      reached = Math.max(reached, ends[rate] ?? 0)
      let at = from[next] ?? own.length
      while (at < own.length && (own[at] as RatedPlace).end <= reached) at += 1
      sum += more * (least[at] as number)
    })
    return sum
  }
}

/** For each index of all places: which of some comes first from there on. */
function firstAtOrAfter(own: readonly { readonly index: number }[], count: number): readonly number[] {
  const first: number[] = []
  let at = 0
  for (let index = 0; index < count; index += 1) {
    while (at < own.length && (own[at] as { index: number }).index < index) at += 1
    first.push(at)
  }
  return first
}

/** The cheapest requests for the places from each index on, all at one rate; 0 after the last. */
function leastAtOneRate(
  table: Table,
  places: readonly RatedPlace[],
  bars: readonly Bar[],
  rules: PackingRules,
): readonly number[] {
  const most = mostOf(table, rules)
  const least: number[] = Array.from({ length: places.length + 1 }, () => 0)
  for (let from = places.length - 1; from >= 0; from -= 1) {
    const { start } = places[from] as RatedPlace
    let [best, reached] = [Infinity, 0]
    for (let last = from; last < places.length; last += 1) {
      const place = places[last] as RatedPlace
      if (place.start - start >= most || barBefore(bars, place.start) >= start) break
      reached = Math.max(reached, place.end)
      if (reached - start > most) break
      best = Math.min(best, costOf(table, reached - start, rules) + (least[last + 1] as number))
    }
    least[from] = best
  }
  return least
}
