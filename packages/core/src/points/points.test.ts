import { tables, type Table } from '../modbus'
import { forbiddenOf, readForbidden } from '../packing'
import type { ByteOrder, DataType } from '../values'
import { applyChanges } from '../changes'
import { explainPoints, type RankedExplanation } from '../explain'
import { basisOf, handshakeTermsOf, ladderFor, standingFor, type Handshake, type Job, type Point } from '../job'
import { sampleDevice, sampleHandshake, sampleJob, samplePoint, sampleTerms } from '../job/fixtures'
import { dice } from '../explain/fixtures'
import {
  checkPoints,
  commandRows,
  declarations,
  isAmbiguous,
  mapRows,
  markOf,
  matchPointColumns,
  openRows,
  packingOf,
  placeBy,
  placeOf,
  placesOf,
  pointChanges,
  pointColumn,
  questionOf,
  readPointRows,
  readRegister,
  foundAtController,
  usualOrder,
  isFoundAtController,
  termsBy,
} from '.'

const source = (register: string, more: Partial<NonNullable<Point['source']>> = {}) => ({
  register,
  type: 'float32' as const,
  order: 'ABCD' as const,
  scale: 1,
  ...more,
})
const point = (quantity: string, register: string, more: Partial<Point> = {}): Point =>
  samplePoint({ id: quantity, quantity, tag: quantity.replace(/\W/g, '_'), source: source(register), ...more })

function jobWith(points: readonly Point[]): { readonly job: Job; readonly handshake: Handshake } {
  const device = sampleDevice('M1', '10.1.1.2')
  const handshake: Handshake = {
    ...sampleHandshake('PLC', device.id),
    terms: [
      ...sampleTerms('function-code', '03'),
      ...sampleTerms('first-register', '0'),
      ...sampleTerms('count', '2'),
      ...sampleTerms('data-type', 'float32'),
      ...sampleTerms('word-order', 'ABCD'),
    ],
    points,
  }
  const job = sampleJob({ devices: [sampleDevice('PLC', '10.1.1.1'), device], handshakes: [handshake] })
  return { job, handshake }
}
const found = (points: readonly Point[]) => {
  const { job, handshake } = jobWith(points)
  return checkPoints(job, handshake).findings.map(({ rule, pointId }) => `${rule} ${pointId}`)
}

describe('registers of a document', () => {
  const read = (text: string, from: 0 | 1) => {
    const register = readRegister(text, { from, table: 'holding-registers' })
    return register.ok ? register.value.kept : register.refusal.what
  }
  // Check values: 40 132 - 40 001 = 131; Modbus Application Protocol V1.1b3, 4.4.
  test('a table digit says where it counts from; what leaves it open counts as the document does', () => {
    expect(read('40 132', 0)).toBe('40132')
    expect(read('131', 0)).toBe('40132')
    expect(read('132', 1)).toBe('40132')
    expect(read('4x132', 1)).toBe('40132')
    expect(read('4x131', 0)).toBe('40132')
    expect(read('0x0083', 1)).toBe('40132')
    expect(read('400132', 1)).toBe('40132')
    expect(read('40132.3', 0)).toBe('40132.3')
    // Five digits end at number 9999.
    expect(read('12000', 0)).toBe('412001')
    expect(read('0', 1)).toMatch(/no register of a document that counts from 1/)
    expect(read('7x', 0)).toMatch(/not a register reference/)
  })
  test('which of them have to be asked about', () => {
    expect(
      ['40132', '0x83', '400132', '132', '4x132', '7x', '12000'].map((each) => isAmbiguous(each, 'holding-registers')),
    ).toEqual([false, false, false, true, true, false, true])
  })
})

describe('rows of a manual', () => {
  const rows = [
    ['Name', 'Address', 'Data type', 'Byte order', 'Factor', 'Unit', 'Min', 'Max', 'R/W'],
    ['Flow', '10', 'REAL', 'low word first', '', 'l/min', '0', '100', 'R'],
    ['Level', '12', 'INT', '', '0.1', 'm', '', '', 'RW'],
    ['', '', '', '', '', '', '', '', ''],
    ['Bad', 'x9', 'flot', 'ABDC', '0', '', '9', '1', 'maybe'],
    ['Flow', '14', 'REAL', '', '', '', '', '', ''],
  ]
  const { job, handshake } = jobWith([point('Level', '40001')])
  const { match, hasHead } = matchPointColumns(rows)
  const readings = readPointRows(rows, match, hasHead, handshake, { from: 0, table: 'holding-registers' })

  test('heads as documents have them', () => {
    expect([hasHead, ...match]).toEqual([
      true,
      'quantity',
      'register',
      'type',
      'order',
      'scale',
      'unit',
      'low',
      'high',
      'access',
    ])
    expect(openRows(rows, match, hasHead, 'holding-registers')).toBe(3)
    expect(matchPointColumns([['Flow', '10', 'REAL']])).toEqual({
      match: ['quantity', 'register', 'type'],
      hasHead: false,
    })
  })

  test('what can be read is; what cannot says why, cell by cell, and keeps nobody back', () => {
    expect(readings.map(({ line, fields, known }) => [line, fields !== undefined, known?.id])).toEqual([
      [2, true, undefined],
      [3, true, 'Level'],
      [5, false, undefined],
      [6, false, undefined],
    ])
    expect(readings[0]?.fields).toMatchObject({
      quantity: 'Flow',
      low: 0,
      high: 100,
      access: 'read',
      source: { register: '40011', type: 'float32', order: 'CDAB', scale: 1 },
    })
    expect(readings[0]?.explanation).toBe('10 counted from 0 is address 10 in the frame')
    expect(readings[2]?.problems.map(({ column }) => column)).toEqual([
      'type',
      'order',
      'scale',
      'access',
      'low',
      'register',
    ])
    expect(readings[3]?.problems[0]?.refusal.what).toBe('"Flow" stands in line 2 already.')
  })

  test('taken, they are points of the job; the map that is written out is taken in again the same', () => {
    let ids = 0
    const changes = pointChanges(readings, job, handshake, () => `new-${(ids += 1)}`)
    const after = applyChanges(job, changes, { who: 'R. Osei', at: 1 })
    const [next] = after.handshakes
    expect(next?.points.map(({ quantity, tag, asked }) => [quantity, tag, asked])).toEqual([
      ['Level', 'Level', true],
      ['Flow', 'M1_Flow', false],
    ])
    if (!next) return
    expect(placesOf(after, next).map((place) => ('missing' in place ? place.missing : place.address))).toEqual([12, 10])
    const map = mapRows(after, next).map((row) => row.map(String))
    const again = readPointRows(map, matchPointColumns(map).match, true, next, { from: 1, table: 'coils' })
    expect(again.map(({ problems }) => problems)).toEqual([[], []])
    const same = applyChanges(
      after,
      pointChanges(again, after, next, () => 'none'),
      { who: 'R. Osei', at: 2 },
    )
    const plain = (each: Point) => ({ ...each, version: 0, source: { ...each.source, offset: undefined } })
    expect(same.handshakes[0]?.points.map(plain)).toEqual(next.points.map(plain))
  })
})

test('cells that are typed: units of time, ranges left open, directions', () => {
  const read = (id: Parameters<typeof pointColumn>[0], text: string) => {
    const cell = pointColumn(id).read(text)
    return cell.ok ? cell.value : cell.refusal.what
  }
  expect(read('pollMs', '2 s')).toEqual({ fields: { pollMs: 2000 } })
  expect(read('pollMs', '')).toEqual({ fields: { pollMs: null } })
  expect(read('pollMs', '5')).toBe('"5" is no time that can be asked for.')
  expect(read('low', '')).toEqual({ fields: { low: null } })
  expect(read('scale', '0')).toBe('A scale of 0 makes 0 of every value.')
  // Two points of a line, worked out by hand: 100 / 16 000 a step, and 4 000 steps below is -25.
  expect(read('scale', '4000 to 20000 = 0 to 100')).toEqual({ place: { scale: 0.00625, offset: -25 } })
  expect(read('scale', '0..27648 -> -50..50')).toEqual({
    place: { scale: Number((100 / 27648).toPrecision(12)), offset: -50 },
  })
  expect(read('scale', '5 to 5 = 0 to 100')).toBe('5 to 5 = 0 to 100 is no line: the two raw numbers are the same.')
  expect(read('scale', '0 to 10 = 3 to 3')).toBe('0 to 10 = 3 to 3 is no line: the two values are the same.')
  expect(read('scale', '0 to x = 0 to 100')).toBe('"x" is not a number.')
  expect(read('access', 'controller to device')).toEqual({ fields: { access: 'write' } })
  expect(read('quantity', ' ')).toBe('Quantity is blank.')
})

describe('an explanation as terms', () => {
  const explained = (more: Partial<RankedExplanation>): RankedExplanation =>
    ({
      shift: 0,
      format: { type: 'float32', order: 'ABCD' },
      registers: 2,
      line: { scale: 1, offset: 0 },
      ...more,
    }) as RankedExplanation
  const after = (each: RankedExplanation) => {
    const { job, handshake } = jobWith([samplePoint({ source: null })])
    const [point] = handshake.points
    const place = point && placeOf(job, handshake, point)
    if (!point || !place || 'missing' in place) throw new Error('no place')
    let made = 0
    const changes = termsBy(handshake, each, place, 'read off M1', () => `t${(made += 1)}`)
    const next = applyChanges(job, changes, { who: 'A', at: 1 })
    const [changed] = next.handshakes
    const now = changed && placeOf(next, changed, point)
    if (!now || 'missing' in now) throw new Error(JSON.stringify(now))
    return { count: changes.length, address: now.address, ...now.plan.format, scale: now.plan.scale }
  }
  test.each<[string, Partial<RankedExplanation>, object]>([
    ['right as it is', {}, { count: 0, address: 0, type: 'float32', order: 'ABCD', scale: 1 }],
    ['shifted', { shift: 2 }, { count: 1, address: 2, type: 'float32' }],
    ['swapped', { format: { type: 'float32', order: 'CDAB' } }, { count: 1, order: 'CDAB', type: 'float32' }],
    [
      'shorter, at another scale',
      { format: { type: 'int16', order: 'ABCD' }, registers: 1, line: { scale: 0.1, offset: 0 } },
      { count: 3, type: 'int16', scale: 0.1 },
    ],
  ])('%s: the device is read so afterwards', (_name, more, read) => expect(after(explained(more))).toMatchObject(read))
  test('an offset, a bit, and an address below 0 are nothing that terms say', () => {
    for (const more of [
      { line: { scale: 1, offset: 4 } },
      { format: { type: 'bool', order: 'ABCD', bit: 3 } },
      { shift: -1 },
    ] as readonly Partial<RankedExplanation>[])
      expect(after(explained(more)).count).toBe(0)
  })
})

test('the order of a further value: as the terms of the device say, as its points have it, else high word first', () => {
  const swapped = point('A', '40001', { source: source('40001', { order: 'CDAB' }) })
  const said = (text: string) => sampleTerms('word-order', text).filter(({ end }) => end === 'device')
  expect(usualOrder({ terms: said('DCBA'), points: [swapped] })).toBe('DCBA')
  expect(usualOrder({ terms: said('as in the manual'), points: [samplePoint({ source: null }), swapped] })).toBe('CDAB')
  expect(usualOrder({ terms: [], points: [] })).toBe('ABCD')
})

describe('what the controller was found with', () => {
  const foundWith = (each: Partial<RankedExplanation>) => {
    const { job, handshake } = jobWith([samplePoint({ source: null })])
    const [point] = handshake.points
    const place = point && placeOf(job, handshake, point)
    if (!place || 'missing' in place) throw new Error('no place')
    const reading = {
      shift: 0,
      format: { type: 'float32' as const, order: 'ABCD' as const },
      line: { scale: 1, offset: 0 },
      ...each,
    }
    let made = 0
    const changes = foundAtController(job, handshake, reading, place, 'tag T', () => `s${(made += 1)}`)
    const next = applyChanges(job, changes, { who: 'A', at: 1 })
    const [own] = next.handshakes
    return { next, own: own as Handshake, changes }
  }
  test('swapped words: seen of its end, to be entered there; the plan and its own end stay', () => {
    const { next, own } = foundWith({ format: { type: 'float32', order: 'CDAB' } })
    expect(next.standings.map(({ termId, end, standing, text }) => [termId, end, standing, text])).toEqual([
      ['word-order', 'controller', 'found', 'CDAB'],
    ])
    expect(standingFor(next, own).get('word-order')?.controller.state).toBe('to-enter')
    expect(standingFor(next, own).get('word-order')?.device.state).toBe('open')
    expect(own.terms).toEqual(jobWith([samplePoint({ source: null })]).handshake.terms)
    const [point] = own.points
    const place = point && placeOf(next, own, point)
    if (!place || 'missing' in place) throw new Error('no place')
    const line = { scale: 1, offset: 0 }
    const isFound = (order: ByteOrder) =>
      isFoundAtController(next, own, { shift: 0, format: { type: 'float32', order }, line }, place)
    expect([isFound('CDAB'), isFound('DCBA'), isFound('ABCD')]).toEqual([true, false, false])
  })
  test('one register on is written as the controller counts', () => {
    const { next } = foundWith({ shift: 1 })
    const planned = jobWith([]).handshake.terms.find(
      ({ termId, end }) => termId === 'first-register' && end === 'controller',
    )
    const [seen] = next.standings
    expect(seen?.notation).toBe(planned?.notation ?? 'five-digit')
    expect(seen?.text).not.toBe(planned?.text)
  })
  test('nothing is written where terms cannot say it', () => {
    expect(foundWith({}).changes).toEqual([])
    expect(foundWith({ line: { scale: 1, offset: 2 } }).changes).toEqual([])
    expect(foundWith({ shift: -1 }).changes).toEqual([])
  })
})

describe('rules', () => {
  test('nothing is found where nothing is wrong, and it is said how many were looked at', () => {
    const { job, handshake } = jobWith([point('A', '40001'), point('B', '40003')])
    expect(checkPoints(job, handshake)).toEqual({ findings: [], looked: 2, unplaced: 0 })
    const none = jobWith([point('A', 'x9')])
    expect(checkPoints(none.job, none.handshake)).toMatchObject({ looked: 0, unplaced: 1 })
  })
  test('shared registers; bits of one register are no clash', () => {
    // The controller asks two registers from 0: B is cut as well.
    expect(found([point('A', '40001'), point('B', '40002')])).toEqual(['point.overlap B', 'point.cut B'])
    // It is about both.
    const two = jobWith([point('A', '40001'), point('B', '40002', { tag: 'A' })])
    const about = checkPoints(two.job, two.handshake).findings.filter(({ withId }) => withId !== undefined)
    expect(about.map(({ rule, pointId, withId }) => [rule, pointId, withId])).toEqual([
      ['point.overlap', 'B', 'A'],
      ['point.tag-twice', 'B', 'A'],
    ])
    const bit = (name: string, register: string) =>
      point(name, register, { source: source(register, { type: 'bool' }) })
    expect(found([bit('A', '40001.3'), bit('B', '40001.4')])).toEqual([])
    const one = (name: string, type: DataType, register = '40001') =>
      point(name, register, { source: source(register, { type }) })
    expect(found([one('A', 'uint8-high'), one('B', 'int8-low')])).toEqual([])
    expect(found([one('A', 'uint8-high'), one('B', 'int8-high')])).toEqual(['point.overlap B'])
    expect(found([one('A', 'uint8-high'), one('B', 'uint16')])).toEqual(['point.overlap B'])
    expect(found([one('A', 'uint8-low'), bit('B', '40001.9')])).toEqual([])
    expect(found([one('A', 'uint8-low'), bit('B', '40001.7')])).toEqual(['point.overlap B'])
    const byte = one('A', 'int8-low')
    expect(found([{ ...byte, low: -10, high: 127 }])).toEqual([])
    expect(found([{ ...byte, low: -10, high: 128 }])).toEqual(['point.range-held A'])
    expect(found([point('A', '40001'), point('B', '30002')])).toEqual([])
  })
  test('what the device and its controller allow: each just within, and one step beyond', () => {
    const foundWith = (
      points: readonly Point[],
      more: Partial<Handshake>,
      terms: readonly Handshake['terms'][number][] = [],
    ) => {
      const { job, handshake } = jobWith(points)
      const own = handshake.terms.filter(({ termId }) => terms.every((each) => each.termId !== termId))
      const changed = { ...handshake, ...more, terms: [...own, ...terms] }
      return checkPoints({ ...job, handshakes: [changed] }, changed).findings.map(({ rule }) => rule)
    }
    // A float at address 99 ends at 100.
    expect(foundWith([point('A', '40100')], { lastAddress: 100 })).toEqual([])
    expect(foundWith([point('A', '40100')], { lastAddress: 99 })).toEqual(['point.beyond-device'])
    expect(foundWith([point('A', '40101')], { evenOnly: true })).toEqual([])
    expect(foundWith([point('A', '40102')], { evenOnly: true })).toEqual(['point.odd'])
    const word = point('A', '40102', { source: source('40102', { type: 'uint16' }) })
    expect(foundWith([word], { evenOnly: true })).toEqual([])
    const largest = (count: string) => sampleTerms('largest-read', count)
    expect(foundWith([point('A', '40101')], {}, largest('2'))).toEqual([])
    expect(foundWith([point('A', '40101')], {}, largest('1'))).toEqual(['point.longer'])
    // The controller asks 10 registers from 0: a float at 8 is whole, at 9 it is cut, at 10 another request brings it.
    const asks = sampleTerms('count', '10')
    expect(foundWith([point('A', '40009')], {}, asks)).toEqual([])
    expect(foundWith([point('A', '40010')], {}, asks)).toEqual(['point.cut'])
    expect(foundWith([point('A', '40011')], {}, asks)).toEqual([])
    expect(foundWith([point('A', '30010')], {}, asks)).toEqual([])
    expect(foundWith([point('A', '9')], {}, asks)).toEqual(['point.cut'])
  })
  test('what is read alone is in a request of its own, named by any of its registers', () => {
    const { job, handshake } = jobWith([point('A', '40001'), point('B', '40003'), point('C', '40005')])
    const requests = (alone: string) =>
      packingOf(job, { ...handshake, alone }).packing.requests.map(({ carries }) => carries.join(''))
    expect(requests('')).toEqual(['ABC'])
    // Nobody else's request may touch them: A and C cannot be read over them.
    expect(requests('3').sort()).toEqual(['A', 'B', 'C'])
    expect(requests('40004').sort()).toEqual(['A', 'B', 'C'])
    expect(requests('30003')).toEqual(['ABC'])
  })
  test('beyond the end, written where nothing can be, ranges, resolution, a tag twice', () => {
    expect(found([point('A', '465536')])).toEqual(['point.end A'])
    expect(found([point('A', '30001', { access: 'write' })])).toEqual(['point.read-only A', 'point.moves A'])
    // What goes to the device has to say what it may move.
    expect(found([point('A', '40001', { access: 'read-write' })])).toEqual(['point.moves A'])
    expect(found([point('A', '40001', { access: 'write', moves: 'pump 1' })])).toEqual([])
    expect(found([point('A', '40001', { low: 5, high: 1 })])).toEqual(['point.range-reversed A'])
    const small = source('40001', { type: 'int16', scale: 0.1 })
    expect(found([point('A', '40001', { source: small, low: 0, high: 4000 })])).toEqual(['point.range-held A'])
    expect(found([point('A', '40001', { source: small, low: 0, high: 3000 })])).toEqual([])
    const coarse = { reference: { value: 42, origin: 'gauge' }, tolerance: { kind: 'absolute', amount: 0.04 } } as const
    expect(found([point('A', '40001', { source: small, ...coarse })])).toEqual(['point.resolution A'])
    expect(found([point('A', '40001', { tag: 'T' }), point('B', '40003', { tag: 'T' })])).toEqual(['point.tag-twice B'])
  })
  test('overlaps of many, beside every pair', () => {
    const roll = dice(3)
    const points = Array.from({ length: 120 }, (_, k) =>
      point(`P${k}`, `4${String(1 + roll.below(400)).padStart(4, '0')}`),
    )
    const { job, handshake } = jobWith(points)
    const at = placesOf(job, handshake).map((place) => ('missing' in place ? NaN : place.address))
    const second = new Set<string>()
    at.forEach((a, i) =>
      at.forEach((b, j) => {
        const before = b < a || (a === b && `P${j}` < `P${i}`)
        if (i !== j && before && Math.abs(a - b) < 2) second.add(`P${i}`)
      }),
    )
    const named = checkPoints(job, handshake).findings.flatMap(({ rule, pointId }) =>
      rule === 'point.overlap' ? [pointId] : [],
    )
    expect(second.size).toBeGreaterThan(20)
    expect([...named].sort()).toEqual([...second].sort())
  })
})

test('a place that names its table is read by that table’s function, whatever the terms say', () => {
  const { job, handshake } = jobWith([point('A', '30010')])
  const [own] = handshake.points
  expect(own && placeOf(job, handshake, own)).toMatchObject({ table: 'input-registers', address: 9 })
})

test('requests of a handshake, and the tables made of them', () => {
  const points = [
    point('A', '40001'),
    point('B', '40003'),
    point('C', '30001'),
    point('D', 'x9'),
    point('E', '40005', { access: 'write' }),
  ]
  const { job, handshake } = jobWith(points)
  const { packing, unit, unplaced } = packingOf(job, handshake)
  expect(packing.requests.map(({ table, first, count }) => `${table} ${first}+${count}`)).toEqual([
    'input-registers 0+2',
    'holding-registers 0+4',
  ])
  expect([unit, packing.never.map(({ id }) => id), unplaced.map((each) => each.point.id)]).toEqual([
    'requests',
    ['E'],
    ['D'],
  ])
  const rows = commandRows(packing.requests, '5')
  expect(rows[2]).toEqual([2, '5', 3, 0, 0, '40001', 4, 1000, 2])
  expect(commandRows(packing.requests, '5', 1)[2]?.[4]).toBe(1)
  expect(markOf(rows)).not.toBe(markOf(commandRows(packing.requests, '6')))
})

test('addresses that must not be read part requests; a point on one of them is named', () => {
  const points = [point('A', '40001'), point('B', '40011'), point('C', '40021')]
  const { job, handshake } = jobWith(points)
  const barred = { ...handshake, unreadable: '5, 20-25' }
  const { packing } = packingOf({ ...job, handshakes: [barred] }, barred)
  expect(packing.requests.map(({ first, count }) => `${first}+${count}`)).toEqual(['0+2', '10+2'])
  expect(packing.never).toEqual([{ id: 'C', why: 'Addresses 20 to 25 must not be read, and it takes 20 to 21.' }])
  const read = (text: string) => {
    const gaps = readForbidden(text, 'holding-registers')
    return gaps.ok ? gaps.value.map(({ table, first, last }) => `${table} ${first}-${last}`) : gaps.refusal.what
  }
  expect(read('30101-30102, 7, 12000')).toEqual([
    'input-registers 100-101',
    'holding-registers 7-7',
    'holding-registers 12000-12000',
  ])
  expect(read('')).toEqual([])
  expect(read('9-7')).toBe('"9-7" ends before it begins.')
  expect(read('30001-40001')).toBe('"30001-40001" begins in one table and ends in another.')
  expect(read('x')).toBe('"x" is no address and no range.')
  // One slip of the keyboard lifts no ban: what cannot be read protects everything.
  const slipped = { ...handshake, unreadable: '50-60, 7x' }
  const closed = packingOf({ ...job, handshakes: [slipped] }, slipped).packing
  expect(closed.requests).toEqual([])
  expect(closed.never).toHaveLength(packing.never.length + packing.requests.flatMap(({ carries }) => carries).length)
  for (const table of Object.keys(tables) as Table[])
    expect(forbiddenOf('50-60, 7x', 'holding-registers')).toContainEqual({ table, first: 0, last: 65_535 })
})

// IEC 61131-3: identifiers begin with a letter and have no blanks; keywords of types as in its table 10.
test('declarations that a compiler takes', () => {
  const text = declarations(
    [
      point('Flow 1', '40001', { tag: '1 Flow-A', unit: 'l/min' }),
      point('Flow 2', '40003', { tag: '1_Flow.A' }),
      point('On', '40005', { tag: 'On' }),
    ],
    ({ quantity }) => (quantity === 'On' ? 'bool' : 'float32'),
  )
  expect(text.split('\n')).toEqual([
    'VAR_GLOBAL',
    '  V_1_Flow_A : REAL; (* Flow 1, l/min *)',
    '  V_1_Flow_A_2 : REAL; (* Flow 2, V *)',
    '  On : BOOL; (* On, V *)',
    'END_VAR',
    '',
  ])
})

test('what was proven rests on the offset as well', () => {
  const { handshake } = jobWith([])
  const basis = (more: { offset?: number }) =>
    basisOf(handshakeTermsOf(sampleJob(), handshake), point('A', '40001', { source: source('40001', more) }))
  expect(basis({ offset: 2 })).not.toEqual(basis({}))
  expect(basis({ offset: 0 })).toEqual(basis({}))
})

test('an explanation that is taken over makes the plan read what was expected, and opens what was proven by the old one', () => {
  const { job, handshake } = jobWith([point('A', '40011')])
  const [own] = handshake.points
  const place = own && placeOf(job, handshake, own)
  if (!own || !place || 'missing' in place) throw new Error('No place.')
  // 123.456 low word first, one register later.
  const samples = [{ at: 0, words: [7, 0xe979, 0x42f6, 9] }]
  const question = questionOf(own, place, 10, samples, { kind: 'about', value: 123.456, allowed: 0.01 })
  const [first] = explainPoints([question])[0]?.equals ?? []
  const next = first && placeBy(first, place)
  expect(next).toEqual({ register: '40012', type: 'float32', order: 'CDAB', scale: 1 })
  if (!next) return
  const after = applyChanges(
    job,
    [{ op: 'set', table: 'point', id: own.id, version: own.version, fields: { source: next } }],
    { who: '', at: 1 },
  )
  const [changed] = after.handshakes[0]?.points ?? []
  const again = changed && after.handshakes[0] && placeOf(after, after.handshakes[0], changed)
  if (!changed || !again || 'missing' in again) throw new Error('No place.')
  expect(explainPoints([questionOf(changed, again, 10, samples, question.expect)])[0]?.search.verdict).toBe('right')
  expect(
    after.handshakes[0] && ladderFor(after, after.handshakes[0]).rungs.find(({ rung }) => rung === 'reading')?.state,
  ).not.toBe('proven')
})
