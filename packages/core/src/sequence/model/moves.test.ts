import type { BringUpJob } from './bringUpJob'
import { compileJob, type CompiledJob } from './compile'
import { jobOf, type DeviceWords } from '../fixtures/jobs'
import { host } from '../fixtures/randomJob'
import { apply, costOf, isLegal, type Move } from './moves'
import { copyOf, isDone, keyOf, startState, type State } from './state'

/** A model to make moves on, by the names of its devices. */
function model(devices: readonly DeviceWords[], change: Partial<BringUpJob> = {}) {
  const job = jobOf(devices, change)
  const compiled: CompiledJob = compileJob(job)
  const state: State = startState(compiled)
  const device = (id: string) => job.devices.findIndex((each) => each.id === id)
  const group = (id: string) => job.groups.findIndex((each) => each.id === `Q ${id}` || each.id === id)
  const spot = (text: string) => {
    const wanted = host(text, 24)
    return compiled.spots.findIndex((each) => each.address === wanted.address)
  }
  const subnet = (text: string) => compiled.spots[spot(text)]?.subnet ?? -1
  const moves = {
    on: (id: string): Move => ({ kind: 'group-on', group: group(id) }),
    off: (id: string): Move => ({ kind: 'group-off', group: group(id) }),
    set: (id: string, to: string): Move => ({ kind: 'set', device: device(id), to: spot(to) }),
    verify: (id: string): Move => ({ kind: 'verify', device: device(id) }),
    cable: (id: string): Move => ({ kind: 'cable', device: id === 'switch' ? -1 : device(id) }),
    laptop: (into: string, leaves?: string): Move => ({
      kind: 'laptop',
      subnet: subnet(into),
      leaves: leaves === undefined ? -1 : subnet(leaves),
    }),
  }
  return {
    ...moves,
    state,
    compiled,
    may: (move: Move) => isLegal(compiled, state, move),
    does: (...list: readonly Move[]) => {
      for (const move of list) {
        if (!isLegal(compiled, state, move)) throw new Error(`may not ${JSON.stringify(move)}`)
        apply(compiled, state, move)
      }
    },
    at: (id: string) => compiled.spots[state.at[device(id)] ?? -1]?.address,
    isDone: () => isDone(compiled, state),
    verified: (id: string) => state.verified[device(id)] === 1,
  }
}

const on = { power: { live: true } }
const A = { id: 'A', from: '10.0.0.10', to: '10.0.1.10' }
const addressOf = (text: string) => host(text).address

/** The exact readings of the model, one by one. */
describe('power', () => {
  test('putting on what is on, or off what is off, is not an action', () => {
    const m = model([A])
    expect(m.may(m.off('A'))).toBe(false)
    m.does(m.on('A'))
    expect(m.may(m.on('A'))).toBe(false)
    m.does(m.off('A'))
  })

  test('what must stay live is never taken off, and may be put on once', () => {
    const m = model([{ ...A, power: { mustStayLive: true } }])
    expect(m.may(m.on('A'))).toBe(true)
    m.does(m.on('A'))
    expect(m.may(m.off('A'))).toBe(false)
  })

  test('a group that clashes with a live device is not put on', () => {
    const m = model([A, { id: 'B', from: '10.0.0.10', to: '10.0.1.11' }])
    m.does(m.on('A'))
    expect(m.may(m.on('B'))).toBe(false)
  })

  test('pending settings of a group come into force together when it is put on', () => {
    const m = model([
      { ...A, groupId: 'Q', access: 'local', effect: 'power-cycle', ...on },
      { id: 'B', from: '10.0.0.11', to: '10.0.1.11', groupId: 'Q', access: 'local', effect: 'power-cycle', ...on },
    ])
    m.does(m.set('A', '10.0.1.10'), m.set('B', '10.0.1.11'))
    expect(m.at('A')).toBe(addressOf('10.0.0.10'))
    m.does(m.off('Q'), m.on('Q'))
    expect([m.at('A'), m.at('B')]).toEqual([addressOf('10.0.1.10'), addressOf('10.0.1.11')])
  })
})

describe('a clash inside a group that is put on', () => {
  const pair = (access: 'local' | 'over-ip'): readonly DeviceWords[] => [
    { ...A, groupId: 'Q', access },
    { id: 'B', from: '10.0.0.10', to: '10.0.1.11', groupId: 'Q' },
    { id: 'C', from: '10.0.0.12', to: '10.0.1.12', access: 'local', ...on },
  ]

  test('is allowed only when local settings can end it', () => {
    const fixed = model(pair('over-ip'))
    expect(fixed.may(fixed.on('Q'))).toBe(false)
    const local = model(pair('local'))
    expect(local.may(local.on('Q'))).toBe(true)
  })

  test('until it has ended, only local settings of its members are done', () => {
    const m = model(pair('local'))
    m.does(m.on('Q'))
    expect(m.may(m.set('C', '10.0.1.12'))).toBe(false)
    expect(m.may(m.laptop('10.0.1.10'))).toBe(false)
    expect(m.may(m.cable('C'))).toBe(false)
    expect(m.may(m.off('Q'))).toBe(false)
    m.does(m.set('A', '10.0.1.10'))
    expect(m.may(m.set('C', '10.0.1.12'))).toBe(true)
  })

  test('does not arise for a device that is straight on the laptop’s cable', () => {
    const m = model(pair('over-ip'))
    m.does(m.cable('A'), m.on('Q'))
    expect(m.may(m.set('C', '10.0.1.12'))).toBe(true)
  })
})

describe('setting', () => {
  test('over IP the laptop is in the subnet of the address it has now', () => {
    const m = model([{ ...A, ...on }])
    expect(m.may(m.set('A', '10.0.1.10'))).toBe(false)
    m.does(m.laptop('10.0.0.10'), m.set('A', '10.0.1.10'))
    expect(m.at('A')).toBe(addressOf('10.0.1.10'))
    expect(m.may(m.set('A', '10.0.0.10'))).toBe(false)
  })

  test('a device without an address cannot be set over IP, but locally', () => {
    const m = model([
      { id: 'A', to: '10.0.1.10', ...on },
      { id: 'B', to: '10.0.1.11', access: 'local', ...on },
    ])
    m.does(m.laptop('10.0.1.10'))
    expect(m.may(m.set('A', '10.0.1.10'))).toBe(false)
    m.does(m.set('B', '10.0.1.11'))
  })

  test('what would equal a live device is not allowed; a pending setting may equal anything', () => {
    const taken = { id: 'B', from: '10.0.1.10', to: '10.0.1.11', ...on }
    const now = model([{ ...A, access: 'local', ...on }, taken])
    expect(now.may(now.set('A', '10.0.1.10'))).toBe(false)
    const later = model([{ ...A, access: 'local', effect: 'power-cycle', ...on }, taken])
    later.does(later.set('A', '10.0.1.10'), later.off('A'))
    expect(later.may(later.on('A'))).toBe(false)
  })

  test('devices that clash can be neither set over IP nor verified; a clash of the start is tolerated', () => {
    const m = model([
      { id: 'A', from: '10.0.0.10', to: '10.0.0.10', ...on },
      { id: 'B', from: '10.0.0.10', to: '10.0.0.11', ...on },
      { id: 'C', from: '10.0.0.12', to: '10.0.0.13', ...on },
    ])
    m.does(m.laptop('10.0.0.10'))
    expect([m.may(m.set('B', '10.0.0.11')), m.may(m.verify('A'))]).toEqual([false, false])
    m.does(m.set('C', '10.0.0.13'), m.off('B'), m.verify('A'))
    // Once it has ended it may not begin anew.
    expect(m.may(m.on('B'))).toBe(false)
  })

  test('a lease is never set: it has its target from the moment it is live', () => {
    const off = model([{ ...A, access: 'lease' }])
    off.does(off.on('A'))
    expect(off.at('A')).toBe(addressOf('10.0.1.10'))
    const live = model([{ ...A, access: 'lease', ...on }])
    expect(live.at('A')).toBe(addressOf('10.0.0.10'))
    live.does(live.off('A'), live.on('A'))
    expect(live.at('A')).toBe(addressOf('10.0.1.10'))
    expect(live.may(live.set('A', '10.0.0.10'))).toBe(false)
  })

  test('a later setting replaces a pending one', () => {
    const m = model([{ ...A, access: 'local', effect: 'power-cycle', ...on }])
    m.does(m.set('A', '10.0.0.1'), m.set('A', '10.0.1.10'), m.off('A'), m.on('A'))
    expect(m.at('A')).toBe(addressOf('10.0.1.10'))
  })

  test('what is set only within reach is parked only within reach', () => {
    const { compiled } = model([{ ...A, access: 'local', reach: host('10.0.0.10', 24) }])
    const places = compiled.devices[0]?.parking.flat().map((spot) => compiled.spots[spot]?.address) ?? []
    expect(places.length).toBeGreaterThan(0)
    expect(places.every((address) => ((address ?? 0) & 0xffffff00) >>> 0 === addressOf('10.0.0.0'))).toBe(true)
    expect(compiled.devices[0]?.reachesTarget).toBe(false)
  })
})

describe('verifying', () => {
  test('is lost when the address changes again', () => {
    const m = model([{ id: 'A', from: '10.0.0.10', to: '10.0.0.10', access: 'local', ...on }])
    m.does(m.laptop('10.0.0.10'), m.verify('A'), m.set('A', '10.0.0.1'), m.set('A', '10.0.0.10'))
    expect(m.verified('A')).toBe(false)
    m.does(m.verify('A'))
    expect(m.isDone()).toBe(true)
  })

  test('a setting that only waits is not at its target yet', () => {
    const m = model([{ ...A, access: 'local', effect: 'power-cycle', ...on }])
    m.does(m.laptop('10.0.1.10'), m.set('A', '10.0.1.10'))
    expect(m.may(m.verify('A'))).toBe(false)
    m.does(m.off('A'), m.on('A'), m.verify('A'))
  })
})

describe('the laptop', () => {
  test('with one address it leaves where it was; with two it may add or replace', () => {
    const one = model([A])
    one.does(one.laptop('10.0.0.10'))
    expect([one.may(one.laptop('10.0.1.10')), one.may(one.laptop('10.0.1.10', '10.0.0.10'))]).toEqual([false, true])
    const two = model([A], { laptop: { subnets: [], holds: 2 } })
    two.does(two.laptop('10.0.0.10'), two.laptop('10.0.1.10'))
    expect(two.state.laptop).toHaveLength(2)
  })

  test('needs a host that nobody has, wants or reserves', () => {
    const full: BringUpJob['reserved'] = [{ first: addressOf('10.0.0.1'), last: addressOf('10.0.0.254') }]
    const m = model([A], { reserved: full })
    expect([m.may(m.laptop('10.0.0.10')), m.may(m.laptop('10.0.1.10'))]).toEqual([false, true])
  })

  test('straight in a device it hears that one only, and the device is off the switch', () => {
    const m = model([
      { id: 'A', from: '10.0.0.10', to: '10.0.0.20', ...on },
      { id: 'B', from: '10.0.0.10', to: '10.0.0.21', ...on },
    ])
    m.does(m.laptop('10.0.0.10'), m.cable('A'))
    expect(m.may(m.set('B', '10.0.0.21'))).toBe(false)
    m.does(m.set('A', '10.0.0.20'), m.verify('A'), m.cable('switch'), m.set('B', '10.0.0.21'), m.verify('B'))
    expect(m.isDone()).toBe(true)
  })

  test('does not go straight into a device of a chain, nor back where the address is taken', () => {
    const chained = model([{ ...A, power: { live: true, chained: true } }])
    expect(chained.may(chained.cable('A'))).toBe(false)
    const m = model([A, { id: 'B', from: '10.0.0.10', to: '10.0.1.11' }])
    m.does(m.cable('A'), m.on('A'), m.on('B'))
    expect(m.may(m.cable('switch'))).toBe(false)
    // From device to device is one move, and B is then off the switch too.
    expect(m.may(m.cable('B'))).toBe(true)
  })
})

test('devices that are alike may be exchanged; those that differ in anything that counts may not', () => {
  const twin = (id: string, last: number, more: Partial<DeviceWords> = {}): DeviceWords => ({
    id,
    from: '192.168.1.20',
    to: `10.0.0.${last}`,
    ...more,
  })
  const alike = model([twin('A', 1), twin('B', 2), twin('C', 3)])
  const [first, second] = [copyOf(alike.state), copyOf(alike.state)]
  apply(alike.compiled, first, alike.on('A'))
  apply(alike.compiled, second, alike.on('C'))
  expect(keyOf(alike.compiled, first)).toBe(keyOf(alike.compiled, second))
  const unlike = model([twin('A', 1), twin('B', 2, { handsOnSeconds: 61 }), twin('C', 3)])
  const [one, two] = [copyOf(unlike.state), copyOf(unlike.state)]
  apply(unlike.compiled, one, unlike.on('A'))
  apply(unlike.compiled, two, unlike.on('B'))
  expect(keyOf(unlike.compiled, one)).not.toBe(keyOf(unlike.compiled, two))
})

test('costs compare as the job prefers: seconds first, or laptop changes first', () => {
  const seconds = model([A])
  expect(costOf(seconds.compiled, seconds.laptop('10.0.0.10'))).toBeGreaterThan(
    costOf(seconds.compiled, seconds.cable('A')),
  )
  const cheap = model([{ ...A, handsOnSeconds: 46 }])
  expect(costOf(cheap.compiled, cheap.set('A', '10.0.1.10'))).toBeGreaterThan(
    costOf(cheap.compiled, cheap.laptop('10.0.0.10')),
  )
  const fewest = model([{ ...A, handsOnSeconds: 900 }], { preference: 'fewest-changes' })
  expect(costOf(fewest.compiled, fewest.laptop('10.0.0.10'))).toBeGreaterThan(
    costOf(fewest.compiled, fewest.set('A', '10.0.1.10')),
  )
  expect(costOf(fewest.compiled, fewest.verify('A'))).toBe(0)
})
