import { limits, tables, type Table } from '../modbus'
import { packJointly } from './severalRates'
import { barBefore, barsOf, costOf, mostOf, perSecond, placesOf, requestOf, type Bar, type Place } from './span'
import type { PackedRequest, Packing, PackingRules, Wanted } from './wanted'

/**
 * Packs values into reads that cost the least: overhead for each request, and something for each register it carries,
 * gaps included. A request may ask faster than a value needs, and then brings it along. Exact; where several rates lie
 * so close together that all ways would take too long, rate by rate, and `isCheapest` is false then.
 */
export function packReads(wanted: readonly Wanted[], rules: PackingRules): Packing {
  const never = wanted.flatMap((each) => {
    const why = whyNever(each, wanted, rules)
    return why === undefined ? [] : [{ id: each.id, why }]
  })
  const lost = new Set(never.map(({ id }) => id))
  const readable = wanted.filter(({ id }) => !lost.has(id))
  const packed = (Object.keys(tables) as Table[]).map((table) => packTable(table, readable, rules))
  const requests = packed.flatMap((each) => each.requests)
  const before = readable.reduce((sum, each) => sum + costOf(each.table, each.size, rules) * perSecond(each.pollMs), 0)
  const after = costPerSecond(requests, rules)
  return { requests, never, before, after, isCheapest: packed.every(({ isCheapest }) => isCheapest) }
}

const costPerSecond = (requests: readonly PackedRequest[], rules: PackingRules): number =>
  requests.reduce((sum, each) => sum + costOf(each.table, each.count, rules) * perSecond(each.pollMs), 0)

type PackedTable = Pick<Packing, 'requests' | 'isCheapest'>

function packTable(table: Table, readable: readonly Wanted[], rules: PackingRules): PackedTable {
  const own = readable.filter((each) => each.table === table)
  const bars = barsOf(table, own, rules)
  const alone = placesOf(own.filter((each) => each.isAlone)).map((place) => requestOf(table, place.pollMs, [place]))
  const shared = own.filter((each) => !each.isAlone)
  const { requests, isCheapest } = packShared(table, shared, bars, rules)
  const inOrder = (a: PackedRequest, b: PackedRequest) => a.pollMs - b.pollMs || a.first - b.first
  return { requests: [...requests, ...alone].sort(inOrder), isCheapest }
}

function packShared(table: Table, shared: readonly Wanted[], bars: readonly Bar[], rules: PackingRules): PackedTable {
  const rates = [...new Set(shared.map(({ pollMs }) => pollMs))].sort((a, b) => a - b)
  const [only] = rates
  if (only === undefined) return { requests: [], isCheapest: true }
  if (rates.length === 1) return { requests: packOne(table, only, shared, bars, rules), isCheapest: true }
  const places = placesOf(shared).map((place) => ({ ...place, rate: rates.indexOf(place.pollMs) }))
  const apart = packRateByRate(table, shared, rates, bars, rules)
  const jointly = packJointly({ table, places, rates, bars, rules }, costPerSecond(apart, rules))
  return jointly ? { requests: jointly, isCheapest: true } : { requests: apart, isCheapest: false }
}

/** The fastest first; what a faster request brings anyway is not asked for again. */
function packRateByRate(
  table: Table,
  shared: readonly Wanted[],
  rates: readonly number[],
  bars: readonly Bar[],
  rules: PackingRules,
): readonly PackedRequest[] {
  const requests: PackedRequest[] = []
  for (const pollMs of rates) {
    const now = shared.filter((each) => each.pollMs === pollMs)
    const open = now.filter((each) => !bringAlong(requests, each))
    requests.push(...packOne(table, pollMs, open, bars, rules))
  }
  return requests
}

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

const bringAlong = (requests: readonly PackedRequest[], { table, address, size, id }: Wanted): boolean => {
  const at = requests.findIndex(
    (each) => each.table === table && each.first <= address && address + size <= each.first + each.count,
  )
  const carrier = requests[at]
  if (!carrier) return false
  ;(requests as PackedRequest[])[at] = { ...carrier, carries: [...carrier.carries, id] }
  return true
}

/**
 * Values that are wanted equally often, by the shortest way through them in order of address: where requests may be
 * anything, there is a cheapest set in which none lies inside another, and then each carries a stretch of that order.
 */
function packOne(
  table: Table,
  pollMs: number,
  wanted: readonly Wanted[],
  bars: readonly Bar[],
  rules: PackingRules,
): readonly PackedRequest[] {
  const places = placesOf(wanted)
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
    packed.unshift(requestOf(table, pollMs, places.slice(from[last], last)))
  return packed
}
