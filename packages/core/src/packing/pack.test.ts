import { packReads, type PackingRules, type Wanted } from '.'
import { dice } from '../explain/fixtures'

const rules = (more: Partial<PackingRules> = {}): PackingRules => ({
  mostRegisters: 125,
  mostBits: 2000,
  forbidden: [],
  cost: { perRequest: 20, perRegister: 1 },
  ...more,
})
const at = (address: number, size = 2, more: Partial<Wanted> = {}): Wanted => ({
  id: `${address}+${size}`,
  table: 'holding-registers',
  address,
  size,
  pollMs: 1000,
  ...more,
})
const shape = (wanted: readonly Wanted[], more: Partial<PackingRules> = {}) =>
  packReads(wanted, rules(more)).requests.map(({ first, count }) => `${first}+${count}`)

test('a gap is read along where that is cheaper than a second request', () => {
  expect(shape([at(0), at(10)])).toEqual(['0+12'])
  expect(shape([at(0), at(30)])).toEqual(['0+2', '30+2'])
  // Twenty registers of gap cost as much as the request they save, twenty-one cost more.
  expect(shape([at(0), at(23)])).toEqual(['0+2', '23+2'])
  const packed = packReads([at(0), at(10)], rules())
  expect([packed.before, packed.after, packed.isCheapest]).toEqual([44, 32, true])
})

test('the device’s own maximum, forbidden gaps, what is read alone', () => {
  expect(shape([at(0), at(2), at(4)], { mostRegisters: 4 })).toHaveLength(2)
  const forbidden = [{ table: 'holding-registers', first: 5, last: 5 }] as const
  expect(shape([at(0), at(10)], { forbidden })).toEqual(['0+2', '10+2'])
  expect(shape([at(0), at(10)], { forbidden: [{ table: 'input-registers', first: 5, last: 5 }] })).toEqual(['0+12'])
  expect(shape([at(0), at(4, 2, { isAlone: true }), at(10)])).toEqual(['0+2', '4+2', '10+2'])
})

test('what can never be read is named with its reason', () => {
  const forbidden = [{ table: 'holding-registers', first: 50, last: 60 }] as const
  const { never, requests } = packReads(
    [
      at(0),
      at(100, 130),
      at(65_535),
      at(59),
      at(200, 2, { isWriteOnly: true }),
      at(300, 2, { isAlone: true }),
      at(301),
    ],
    rules({ forbidden }),
  )
  expect(never).toEqual([
    { id: '100+130', why: 'It takes 130 registers; one request carries 125.' },
    { id: '65535+2', why: 'It ends at address 65536; the last is 65535.' },
    { id: '59+2', why: 'Addresses 50 to 60 must not be read, and it takes 59 to 60.' },
    { id: '200+2', why: 'It can only be written.' },
    { id: '301+2', why: 'It overlaps addresses 300 to 301, which have to be read alone.' },
  ])
  expect(requests.flatMap(({ carries }) => carries)).toEqual(['0+2', '300+2'])
})

test('the last forbidden address is forbidden, its neighbours are not; one address in two sizes is no way round', () => {
  const forbidden = [{ table: 'holding-registers', first: 50, last: 60 }] as const
  const never = (wanted: readonly Wanted[]) => packReads(wanted, rules({ forbidden })).never.map(({ id }) => id)
  expect(never([at(60, 1), at(50, 1)])).toEqual(['60+1', '50+1'])
  expect(never([at(61, 1), at(49, 1)])).toEqual([])
  expect(never([at(49, 2), at(48, 2)])).toEqual(['49+2'])
  // Both at 300: the longer one lies over what has to be read alone, whichever is named first.
  expect(never([at(300, 1, { isAlone: true }), at(300, 2)])).toEqual(['300+2'])
  expect(never([at(300, 2), at(300, 1, { isAlone: true })])).toEqual(['300+2'])
  expect(never([at(300, 2, { isAlone: true }), at(300, 2)])).toEqual([])
})

test('rates are classes; what a faster request brings along is not asked for again', () => {
  const packed = packReads([at(0, 2, { pollMs: 100 }), at(8, 2, { pollMs: 100 }), at(4), at(40)], rules())
  expect(packed.requests.map(({ first, count, pollMs, carries }) => [first, count, pollMs, carries.length])).toEqual([
    [0, 10, 100, 3],
    [40, 2, 1000, 1],
  ])
  expect(packed.isCheapest).toBe(true)
})

test('tables are apart, and bits cost by sixteen', () => {
  const { requests, after } = packReads(
    [at(0, 1, { table: 'coils', id: 'a' }), at(15, 1, { table: 'coils', id: 'b' }), at(0)],
    rules(),
  )
  expect(requests).toHaveLength(2)
  expect(after).toBe(21 + 22)
  expect(packReads([], rules())).toMatchObject({ requests: [], before: 0, after: 0 })
})

/**
 * Every way to share values out to requests, one after the other; no order is taken for granted. A request asks as often
 * as the value in it that is wanted most often.
 */
function cheapestOfAll(
  wanted: readonly Wanted[],
  { mostRegisters, mostBits, forbidden, cost }: PackingRules,
  unit: 'registers' | 'bits' = 'registers',
): number {
  const [most, words] =
    unit === 'bits' ? [mostBits, (size: number) => Math.ceil(size / 16)] : [mostRegisters, (size: number) => size]
  const spanCost = (group: readonly Wanted[]): number => {
    const first = Math.min(...group.map(({ address }) => address))
    const end = Math.max(...group.map(({ address, size }) => address + size))
    const hit = forbidden.some((gap) => gap.first < end && gap.last >= first)
    // What is read alone shares its request with nobody, and lies in nobody else's.
    const touched = wanted.filter(({ address, size }) => address < end && address + size > first)
    const disturbs = touched.some(({ isAlone, id }) => isAlone && (group.length > 1 || group[0]?.id !== id))
    const perSecond = 1000 / Math.min(...group.map(({ pollMs }) => pollMs))
    return end - first > most || hit || disturbs
      ? Infinity
      : (cost.perRequest + cost.perRegister * words(end - first)) * perSecond
  }
  const place = (k: number, groups: readonly (readonly Wanted[])[]): number => {
    const each = wanted[k]
    if (!each) return groups.reduce((sum, group) => sum + spanCost(group), 0)
    return Math.min(
      place(k + 1, [...groups, [each]]),
      ...groups.map((group, at) =>
        place(
          k + 1,
          groups.map((other, k2) => (k2 === at ? [...group, each] : other)),
        ),
      ),
    )
  }
  return place(0, [])
}

/** A second exact programme, by where requests end: the first value that is still open begins the next one. */
function cheapestByEnds(wanted: readonly Wanted[], { mostRegisters, forbidden, cost }: PackingRules): number {
  const ends = [...new Set(wanted.map(({ address, size }) => address + size))].sort((a, b) => a - b)
  const known = new Map<number, number>()
  for (const done of [...ends].reverse().concat(-1)) {
    const open = wanted.filter(({ address, size }) => address + size > done)
    if (open.length === 0) {
      known.set(done, 0)
      continue
    }
    const first = Math.min(...open.map(({ address }) => address))
    let least = Infinity
    for (const end of ends) {
      if (end <= done || end <= first || end - first > mostRegisters) continue
      if (forbidden.some((gap) => gap.first < end && gap.last >= first)) continue
      least = Math.min(least, cost.perRequest + cost.perRegister * (end - first) + (known.get(end) ?? Infinity))
    }
    known.set(done, least)
  }
  return known.get(-1) ?? Infinity
}

function randomCase(seed: number, count: number, spread: number): readonly [readonly Wanted[], PackingRules] {
  const roll = dice(seed)
  const bar = roll.below(spread)
  const forbidden =
    roll.next() < 0.5 ? [] : [{ table: 'holding-registers' as const, first: bar, last: bar + roll.below(3) }]
  const all = Array.from({ length: count }, (_, k) =>
    at(roll.below(spread), roll.pick([1, 2, 2, 4, 9]), { id: `p${k}` }),
  )
  const clear = all.filter(({ address, size }) =>
    forbidden.every((gap) => gap.last < address || gap.first >= address + size),
  )
  return [
    clear,
    rules({
      forbidden,
      mostRegisters: roll.pick([9, 16, 40, 125]),
      cost: { perRequest: roll.pick([1, 5, 20]), perRegister: roll.pick([0, 1, 2]) },
    }),
  ]
}

test('as cheap as the cheapest of all ways to share them out', () => {
  for (let seed = 1; seed <= 150; seed += 1) {
    const [wanted, own] = randomCase(seed, 7, 60)
    expect([seed, packReads(wanted, own).after]).toEqual([seed, wanted.length === 0 ? 0 : cheapestOfAll(wanted, own)])
  }
})

test('bits too, which cost by sixteen', () => {
  for (let seed = 1; seed <= 150; seed += 1) {
    const roll = dice(3000 + seed)
    const wanted = Array.from({ length: 7 }, (_, k) =>
      at(roll.below(400), roll.pick([1, 1, 8, 16]), { id: `b${k}`, table: 'coils' }),
    )
    const own = rules({
      mostBits: roll.pick([40, 100, 2000]),
      cost: { perRequest: roll.pick([1, 3, 9]), perRegister: roll.pick([0, 1, 2]) },
    })
    expect([seed, packReads(wanted, own).after]).toEqual([seed, cheapestOfAll(wanted, own, 'bits')])
  }
})

test('and with values that are read alone: no request of others lies over them', () => {
  let parted = 0
  for (let seed = 1; seed <= 150; seed += 1) {
    const roll = dice(5000 + seed)
    // None lies on another: then what is alone could not be read at all.
    const wanted = Array.from({ length: 7 }, (_, k) =>
      at(9 * k + roll.below(6), roll.pick([1, 2, 3]), { id: `p${k}`, isAlone: roll.next() < 0.3 }),
    )
    const own = rules({ cost: { perRequest: roll.pick([1, 20, 60]), perRegister: roll.pick([0, 1]) } })
    const { requests, after } = packReads(wanted, own)
    expect([seed, after]).toEqual([seed, cheapestOfAll(wanted, own)])
    parted += requests.length > 1 ? 1 : 0
  }
  expect(parted).toBeGreaterThan(50)
})

test('and for several rates at once: asking more often than is needed is taken where it saves a request', () => {
  const tell = { faster: 0, better: 0 }
  for (let seed = 1; seed <= 300; seed += 1) {
    const roll = dice(7000 + seed)
    const rates = roll.pick([
      [100, 1000],
      [500, 1000, 2000],
      [200, 300, 5000],
    ])
    const isBits = seed % 4 === 0
    const [base, own] = randomCase(7000 + seed, 7, roll.pick([25, 60]))
    const wanted = base.map((each) => ({
      ...each,
      ...(isBits ? { table: 'coils' as const, address: each.address * 5 } : {}),
      pollMs: roll.pick(rates),
    }))
    const inBits = { ...own, forbidden: [], mostBits: roll.pick([60, 200]) }
    const packed = packReads(wanted, isBits ? inBits : own)
    const least = wanted.length === 0 ? 0 : cheapestOfAll(wanted, isBits ? inBits : own, isBits ? 'bits' : 'registers')
    expect([seed, packed.isCheapest, packed.after.toPrecision(9)]).toEqual([seed, true, least.toPrecision(9)])
    const apart = rates.reduce(
      (sum, pollMs) =>
        sum +
        packReads(
          wanted.filter((each) => each.pollMs === pollMs),
          isBits ? inBits : own,
        ).after,
      0,
    )
    const asked = new Map(packed.requests.flatMap(({ carries, pollMs }) => carries.map((id) => [id, pollMs] as const)))
    for (const { id, pollMs } of wanted) expect(asked.get(id)).toBeLessThanOrEqual(pollMs)
    tell.faster += wanted.some(({ id, pollMs }) => (asked.get(id) ?? 0) < pollMs) ? 1 : 0
    tell.better += packed.after < apart - 1e-9 ? 1 : 0
  }
  // The cases are such that it matters.
  expect(tell.faster).toBeGreaterThan(100)
  expect(tell.better).toBeGreaterThan(100)
})

test('several rates with values that are read alone, and two values at one place', () => {
  for (let seed = 1; seed <= 100; seed += 1) {
    const roll = dice(9000 + seed)
    const wanted = Array.from({ length: 6 }, (_, k) =>
      at(9 * k + roll.below(6), roll.pick([1, 2, 3]), {
        id: `p${k}`,
        pollMs: roll.pick([100, 1000]),
        isAlone: roll.next() < 0.3,
      }),
    )
    const own = rules({ cost: { perRequest: roll.pick([1, 20, 60]), perRegister: roll.pick([0, 1]) } })
    expect([seed, packReads(wanted, own).after]).toEqual([seed, cheapestOfAll(wanted, own)])
  }
  const twice = [at(0, 2, { id: 'fast', pollMs: 100, isAlone: true }), at(0, 2, { id: 'slow', isAlone: true })]
  expect(packReads(twice, rules()).requests).toEqual([
    { table: 'holding-registers', first: 0, count: 2, pollMs: 100, carries: ['fast', 'slow'] },
  ])
})

test('where all ways would take too long it is packed rate by rate, and nobody says that it is cheapest', () => {
  const roll = dice(11)
  const wanted = Array.from({ length: 600 }, (_, k) =>
    at(2 * k, 1, { id: `p${k}`, pollMs: roll.pick([100, 170, 310, 700, 1500, 4000]) }),
  )
  const packed = packReads(wanted, rules())
  expect(packed.isCheapest).toBe(false)
  expect(packed.requests.flatMap(({ carries }) => carries)).toHaveLength(600)
  const asked = new Map(packed.requests.flatMap(({ carries, pollMs }) => carries.map((id) => [id, pollMs] as const)))
  expect(wanted.every(({ id, pollMs }) => (asked.get(id) ?? Infinity) <= pollMs)).toBe(true)
})

test('and as a second exact programme for many values; each is carried whole, once, and no bar is touched', () => {
  for (let seed = 1; seed <= 25; seed += 1) {
    const [wanted, own] = randomCase(1000 + seed, 220, 1500)
    const packed = packReads(wanted, own)
    expect([seed, packed.after]).toEqual([seed, cheapestByEnds(wanted, own)])
    const carried = new Map(packed.requests.flatMap((request) => request.carries.map((id) => [id, request] as const)))
    expect(packed.requests.flatMap(({ carries }) => carries)).toHaveLength(wanted.length)
    for (const { id, address, size } of wanted) {
      const { first = NaN, count = NaN } = carried.get(id) ?? {}
      expect(first <= address && address + size <= first + count).toBe(true)
    }
    for (const { first, count } of packed.requests) {
      expect(count).toBeLessThanOrEqual(own.mostRegisters)
      expect(own.forbidden.some((gap) => gap.first < first + count && gap.last >= first)).toBe(false)
    }
  }
})
