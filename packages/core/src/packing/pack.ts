import { limits, tables, type Table } from '../modbus'
import { groupedBy } from '../units'
import type { PackedRequest, Packing, PackingRules, Wanted } from './wanted'

/** Values that lie at the same place travel together; `end` is the first address after it. */
interface Place {
  readonly start: number
  readonly end: number
  readonly ids: readonly string[]
}

/**
 * Packs values into reads that cost the least: overhead for each request, and something for each register it carries,
 * gaps included. Exact, by the shortest way through the values in order of address: where requests may be anything,
 * there is a cheapest set in which none lies inside another, and then each carries a stretch of that order.
 *
 * Values wanted at several rates are packed rate by rate, the fastest first; what a faster request brings anyway is
 * not asked for again.
 */
export function packReads(wanted: readonly Wanted[], rules: PackingRules): Packing {
  const never = wanted.flatMap((each) => {
    const why = whyNever(each, wanted, rules)
    return why === undefined ? [] : [{ id: each.id, why }]
  })
  const lost = new Set(never.map(({ id }) => id))
  const readable = wanted.filter(({ id }) => !lost.has(id))
  const requests: PackedRequest[] = []
  for (const table of Object.keys(tables) as Table[]) {
    const own = readable.filter((each) => each.table === table)
    const rates = [...new Set(own.map(({ pollMs }) => pollMs))].sort((a, b) => a - b)
    for (const pollMs of rates) {
      const now = own.filter((each) => each.pollMs === pollMs)
      const open = now.filter((each) => !bringAlong(requests, each))
      requests.push(...packOne(table, pollMs, open, own, rules))
    }
  }
  const before = readable.reduce((sum, each) => sum + costOf(each.table, each.size, rules) * perSecond(each.pollMs), 0)
  const after = requests.reduce((sum, each) => sum + costOf(each.table, each.count, rules) * perSecond(each.pollMs), 0)
  const rates = new Set(readable.map(({ pollMs }) => pollMs))
  return { requests, never, before, after, isCheapest: rates.size <= 1 }
}

const perSecond = (pollMs: number) => 1000 / pollMs

const mostOf = (table: Table, rules: PackingRules) => (tables[table].bits === 1 ? rules.mostBits : rules.mostRegisters)

const costOf = (table: Table, size: number, { cost }: PackingRules): number =>
  cost.perRequest + cost.perRegister * (tables[table].bits === 1 ? Math.ceil(size / 16) : size)

function whyNever(each: Wanted, all: readonly Wanted[], rules: PackingRules): string | undefined {
  const { table, address, size } = each
  const unit = tables[table].bits === 1 ? 'bits' : 'registers'
  if (each.isWriteOnly) return 'It can only be written.'
  const most = mostOf(table, rules)
  if (size > most) return `It takes ${size} ${unit}; one request carries ${most}.`
  if (address + size - 1 > limits.lastAddress)
    return `It ends at address ${address + size - 1}; the last is ${limits.lastAddress}.`
  const gap = rules.forbidden.find((gap) => gap.table === table && gap.first < address + size && gap.last >= address)
  if (gap)
    return `Addresses ${gap.first} to ${gap.last} must not be read, and it takes ${address} to ${address + size - 1}.`
  const alone = all.find(
    (other) =>
      other.isAlone === true &&
      other.table === table &&
      (other.address !== address || other.size !== size) &&
      other.address < address + size &&
      other.address + other.size > address,
  )
  return (
    alone && `It overlaps addresses ${alone.address} to ${alone.address + alone.size - 1}, which have to be read alone.`
  )
}

const bringAlong = (requests: readonly PackedRequest[], { table, address, size, isAlone, id }: Wanted): boolean => {
  if (isAlone) return false
  const at = requests.findIndex(
    (each) => each.table === table && each.first <= address && address + size <= each.first + each.count,
  )
  const carrier = requests[at]
  if (!carrier) return false
  ;(requests as PackedRequest[])[at] = { ...carrier, carries: [...carrier.carries, id] }
  return true
}

function placesOf(wanted: readonly Wanted[]): readonly Place[] {
  const byPlace = groupedBy(wanted, ({ address, size }) => `${address}+${size}`)
  return [...byPlace.values()]
    .map((same) => {
      const [first] = same as [Wanted, ...Wanted[]]
      return { start: first.address, end: first.address + first.size, ids: same.map(({ id }) => id) }
    })
    .sort((a, b) => a.start - b.start || a.end - b.end)
}

/** Addresses that a request of several values has to stay clear of, sorted; what is read alone is one of them. */
function barsOf(table: Table, all: readonly Wanted[], rules: PackingRules): readonly (readonly [number, number])[] {
  const bars = rules.forbidden.filter((gap) => gap.table === table).map(({ first, last }) => [first, last] as const)
  const alone = all.filter((each) => each.isAlone).map(({ address, size }) => [address, address + size - 1] as const)
  return [...bars, ...alone].sort((a, b) => a[0] - b[0])
}

function packOne(
  table: Table,
  pollMs: number,
  wanted: readonly Wanted[],
  all: readonly Wanted[],
  rules: PackingRules,
): readonly PackedRequest[] {
  const request = (places: readonly Place[]): PackedRequest => {
    const first = places[0]?.start ?? 0
    const count = Math.max(...places.map(({ end }) => end)) - first
    return { table, first, count, pollMs, carries: places.flatMap(({ ids }) => ids) }
  }
  const alone = placesOf(wanted.filter((each) => each.isAlone)).map((place) => request([place]))
  const places = placesOf(wanted.filter((each) => !each.isAlone))
  const bars = barsOf(table, all, rules)
  const most = mostOf(table, rules)
  const best: number[] = [0]
  const from: number[] = [0]
  for (let last = 0; last < places.length; last += 1) {
    let [least, begin, end] = [Infinity, last, 0]
    const bar = barBefore(bars, places[last]?.start ?? 0)
    for (let first = last; first >= 0; first -= 1) {
      const place = places[first] as Place
      end = Math.max(end, place.end)
      // Earlier ones begin farther away still; a bar between stays between.
      if ((places[last] as Place).start - place.start >= most || place.start <= bar) break
      if (end - place.start > most) continue
      const cost = (best[first] as number) + costOf(table, end - place.start, rules)
      if (cost < least) [least, begin] = [cost, first]
    }
    best.push(least)
    from.push(begin)
  }
  const packed: PackedRequest[] = []
  for (let last = places.length; last > 0; last = from[last] as number)
    packed.unshift(request(places.slice(from[last], last)))
  return [...packed, ...alone].sort((a, b) => a.first - b.first)
}

/** The last barred address before a place; -1 where there is none. Values themselves never touch one. */
function barBefore(bars: readonly (readonly [number, number])[], start: number): number {
  let last = -1
  for (const [first, end] of bars) {
    if (first >= start) break
    last = Math.max(last, end)
  }
  return last
}
