import { tables, type Table } from '../modbus'
import { groupedBy } from '../units'
import type { PackedRequest, PackingRules, Wanted } from './wanted'

/** Values that lie at the same place travel together; `end` is the first address after it. */
export interface Place {
  readonly start: number
  readonly end: number
  readonly ids: readonly string[]
}

/** Addresses that a request of several values has to stay clear of, both ends included. */
export type Bar = readonly [first: number, last: number]

export const perSecond = (pollMs: number): number => 1000 / pollMs

export const mostOf = (table: Table, rules: PackingRules): number =>
  tables[table].bits === 1 ? rules.mostBits : rules.mostRegisters

/** What one request of so many registers, or bits, costs. */
export const costOf = (table: Table, size: number, { cost }: PackingRules): number =>
  cost.perRequest + cost.perRegister * (tables[table].bits === 1 ? Math.ceil(size / 16) : size)

/** Places in order of address. */
export function placesOf(wanted: readonly Wanted[]): readonly (Place & { readonly pollMs: number })[] {
  const byPlace = groupedBy(wanted, ({ address, size }) => `${address}+${size}`)
  return [...byPlace.values()]
    .map((same) => {
      const [first] = same as [Wanted, ...Wanted[]]
      return {
        start: first.address,
        end: first.address + first.size,
        ids: same.map(({ id }) => id),
        // What lies at one place is read as often as the one that is wanted most often.
        pollMs: Math.min(...same.map(({ pollMs }) => pollMs)),
      }
    })
    .sort((a, b) => a.start - b.start || a.end - b.end)
}

/** The bars of a table, sorted; what is read alone is one of them. */
export function barsOf(table: Table, all: readonly Wanted[], rules: PackingRules): readonly Bar[] {
  const bars = rules.forbidden.filter((gap) => gap.table === table).map(({ first, last }) => [first, last] as const)
  const alone = all.filter((each) => each.isAlone).map(({ address, size }) => [address, address + size - 1] as const)
  return [...bars, ...alone].sort((a, b) => a[0] - b[0])
}

/** The last barred address before a place; -1 where there is none. Values themselves never touch one. */
export function barBefore(bars: readonly Bar[], start: number): number {
  let last = -1
  for (const [first, end] of bars) {
    if (first >= start) break
    last = Math.max(last, end)
  }
  return last
}

/** One read over all of some places. */
export function requestOf(table: Table, pollMs: number, places: readonly Place[]): PackedRequest {
  const first = Math.min(...places.map(({ start }) => start))
  const count = Math.max(...places.map(({ end }) => end)) - first
  return { table, first, count, pollMs, carries: places.flatMap(({ ids }) => ids) }
}
