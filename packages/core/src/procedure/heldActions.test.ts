import { ipv4, prefixLength } from '../address'
import type { Device } from '../job'
import { sampleDevice, sampleJob } from '../job/fixtures'
import type { BringUpAction } from '../sequence'
import { blankWalk, bringUpJobOf, LEAD_SETTING, usualSettings, type WalkRecord } from '.'
import { heldActions } from './wholePlant'

const host = (text: string) => ({ address: ipv4(text), prefix: prefixLength(24) })
const laptop = [host('10.20.40.5')]
const box = (tag: string, address: string | null, asFound: string, isolation: string, more: Partial<Device> = {}) =>
  sampleDevice(tag, address, { kind: 'remote-io', asFound, isolation, effective: 'at-once', ...more })
const set = (deviceId: string, to: string, pending = false): BringUpAction => ({
  kind: 'set',
  deviceId,
  to: host(to),
  parking: false,
  pending,
})
const on = (groupId: string): BringUpAction => ({ kind: 'group-on', groupId })
const off = (groupId: string): BringUpAction => ({ kind: 'group-off', groupId })
const verify = (deviceId: string): BringUpAction => ({ kind: 'verify', deviceId })
const cable = (into: string): BringUpAction => ({ kind: 'cable', into })
const live = (...groups: readonly string[]): WalkRecord => ({
  ...blankWalk,
  settings: { ...usualSettings, groups: Object.fromEntries(groups.map((id) => [id, { live: true }])) },
})

/** Which actions of an order wait, and why, by their place. */
function held(devices: readonly Device[], order: readonly BringUpAction[], record: WalkRecord = blankWalk) {
  const job = sampleJob({ devices })
  const found = heldActions(bringUpJobOf(job, record, laptop), order)
  return Object.fromEntries([...found].map(([index, { why }]) => [index, why]))
}

const FACTORY = '192.168.1.20'
const A = box('A', '10.20.40.21', FACTORY, 'Q1')
const B = box('B', '10.20.40.22', FACTORY, 'Q1')

describe('which actions wait for what is left out', () => {
  test('an order that reaches every device waits for nothing, whatever they do to each other meanwhile', () => {
    const order = [on('Q1'), cable('A'), set('A', '10.20.40.21'), cable('switch'), set('B', '10.20.40.22')]
    expect(held([A, B], [...order, verify('A'), verify('B')])).toEqual({})
  })

  test('all three on one address: the first pair is named, the others are counted; each way out once', () => {
    const C = box('C', '10.20.40.23', FACTORY, 'Q1')
    const job = sampleJob({ devices: [A, B, C] })
    const found = heldActions(bringUpJobOf(job, blankWalk, laptop), [on('Q1'), verify('A')])
    expect(found.get(0)).toEqual({
      why: 'Q1 stays off: A and B would both be live at 192.168.1.20 (and 2 more), and B, C are not in the order.',
      help: [
        'Pull the network lead of B and of C first, and say so here.',
        'Give B another address while nothing else at 192.168.1.20 has power.',
        'Give C another address while nothing else at 192.168.1.20 has power.',
      ],
      leadsOf: ['B', 'C'],
    })
    expect(found.get(1)).toEqual({ why: 'A has no power: Q1 waits.', help: [], leadsOf: [] })
  })

  test('one pair: no more are counted, and a breaker of its own is a way out', () => {
    const job = sampleJob({ devices: [A, B] })
    const [first] = heldActions(bringUpJobOf(job, blankWalk, laptop), [on('Q1'), verify('A')]).values()
    expect(first).toEqual({
      why: 'Q1 stays off: A and B would both be live at 192.168.1.20, and B is not in the order.',
      help: [
        'Pull the network lead of B first, and say so here.',
        'Give B another address while nothing else at 192.168.1.20 has power.',
        'Put B on a breaker of its own.',
      ],
      leadsOf: ['B'],
    })
  })

  test('a breaker that has power is put on again without a word, and one put off makes room', () => {
    const old = box('OLD', null, '10.20.40.21', 'Q2')
    expect(held([A, old], [on('Q2'), on('Q1'), verify('A')], live('Q2'))).toEqual({})
    const order = [on('Q1'), set('A', '10.20.40.21'), verify('A')]
    expect(held([A, old], order, live('Q2'))).toEqual({
      1: 'A is not set: A and OLD would both be live at 10.20.40.21, and OLD is not in the order.',
      2: 'A is not at its planned address: what sets it waits.',
    })
    expect(held([A, old], [off('Q2'), ...order], live('Q2'))).toEqual({})
  })

  test('what is set and not in force yet stands at its old address until its breaker is put on again', () => {
    const old = box('OLD', null, '10.20.40.21', 'Q2')
    const order = [on('Q1'), set('A', '10.20.40.21', true), off('Q1'), on('Q1'), verify('A')]
    expect(held([A, old], order, live('Q2'))).toEqual({
      3: 'Q1 stays off: A and OLD would both be live at 10.20.40.21, and OLD is not in the order.',
      4: 'A has no power: Q1 waits.',
    })
    expect(held([A, old], [...order.slice(0, 2), verify('A')], live('Q2'))).toEqual({})
  })

  test('a breaker that could not be put on leaves its devices as they were', () => {
    const old = box('OLD', null, '10.20.40.21', 'Q2')
    const order = [on('Q1'), set('A', '10.20.40.21', true), off('Q1'), on('Q1'), off('Q2'), on('Q1'), verify('A')]
    expect(held([A, old], order, live('Q2'))).toMatchObject({ 3: expect.stringContaining('Q1 stays off') })
    expect(Object.keys(held([A, old], order, live('Q2')))).not.toContain('5')
  })

  test('over the network a device is not set or verified beside a twin; another device on the network is', () => {
    const other = box('OTHER', '10.20.40.40', '192.168.1.40', 'Q3')
    const twin = box('TWIN', null, FACTORY, 'Q1')
    const order = [set('A', '10.20.40.21'), verify('A'), set('OTHER', '10.20.40.40'), verify('OTHER')]
    expect(held([A, twin, other], order, live('Q1', 'Q3'))).toEqual({
      0: 'A is not set: A and TWIN would both be live at 192.168.1.20, and TWIN is not in the order.',
      1: 'A cannot be told apart: A and TWIN would both be live at 192.168.1.20, and TWIN is not in the order.',
    })
  })

  test('at its own keypad a device is set beside a twin: it is plain which one is meant', () => {
    const drive = box('A', '10.20.40.21', FACTORY, 'Q1', { kind: 'drive', setting: 'keypad' })
    const twin = box('TWIN', null, FACTORY, 'Q1')
    expect(held([drive, twin], [set('A', '10.20.40.21'), verify('A')], live('Q1'))).toEqual({})
  })

  test('a device that nobody knows the address of, or without a port, is in nobody’s way', () => {
    const unknown = box('U', null, 'unknown', 'Q1')
    const unit = box('UNIT', null, FACTORY, 'Q1', { ports: [] })
    expect(held([A, unknown, unit], [on('Q1'), set('A', '10.20.40.21'), verify('A')])).toEqual({})
  })

  test('a pulled lead takes a device out of the way', () => {
    const pulled = {
      ...blankWalk,
      facts: [
        {
          id: 'lead',
          deviceId: 'B',
          setting: LEAD_SETTING,
          standing: 'in-force' as const,
          text: 'pulled',
          how: 'seen' as const,
          who: 'R. Osei',
          at: 1,
        },
      ],
    }
    expect(held([A, B], [on('Q1'), set('A', '10.20.40.21'), verify('A')], pulled)).toEqual({})
  })

  test('a lead is not put in beside a twin that is not walked; pulled it makes room', () => {
    const twin = box('TWIN', null, FACTORY, 'Q2')
    const lead = (kind: 'lead-out' | 'lead-in'): BringUpAction => ({ kind, deviceId: 'A' })
    const order = [lead('lead-out'), on('Q1'), lead('lead-in'), verify('A')]
    const found = held([A, twin], order, live('Q2'))
    expect(Object.keys(found)).toEqual(['2'])
    expect(JSON.stringify(found)).toContain('The network lead of A stays out')
    // A left the address meanwhile, at its own keypad: then it may come back.
    expect(held([A, twin], [lead('lead-out'), on('Q1'), set('A', '10.20.40.21'), lead('lead-in')], live('Q2'))).toEqual(
      {},
    )
  })

  test('straight in the laptop a device is heard by nobody; the cable is not put back beside a twin', () => {
    const twin = box('TWIN', null, FACTORY, 'Q2')
    const order = [cable('A'), on('Q1'), cable('switch'), verify('A')]
    expect(held([A, twin], order, live('Q2'))).toEqual({
      2: 'The cable stays where it is: A and TWIN would both be live at 192.168.1.20, and TWIN is not in the order.',
    })
    expect(held([A, twin], [cable('A'), on('Q1'), set('A', '10.20.40.21'), cable('switch')], live('Q2'))).toEqual({})
  })

  test('a device that asks a server for its address takes its reservation when it gets power, and not before', () => {
    const leased = box('L', '10.20.40.30', 'unknown', 'Q1', {
      kind: 'meter',
      setting: 'dhcp-reservation',
      ports: [
        {
          ...(A.ports[0] as Device['ports'][number]),
          id: 'L-port',
          address: '10.20.40.30',
          school: 'dhcp-reservation',
        },
      ],
    })
    const old = box('OLD', null, '10.20.40.30', 'Q2')
    const job = sampleJob({ devices: [leased, old] })
    const given = bringUpJobOf(job, live('Q2'), laptop)
    // The test is about the one kind of access: it must be there.
    expect(given.devices.map((device) => device.access)).toContain('lease')
    const found = heldActions(given, [on('Q1'), verify('L')])
    expect(found.get(0)?.why).toBe(
      'Q1 stays off: L and OLD would both be live at 10.20.40.30, and OLD is not in the order.',
    )
  })

  test('actions about what is not there, and the laptop’s own, never wait', () => {
    const gone: readonly BringUpAction[] = [
      { kind: 'laptop', into: host('10.20.40.5'), leaves: null },
      set('gone', '10.20.40.9'),
      verify('gone'),
      on('Q9'),
      off('Q9'),
    ]
    expect(held([A, B], gone)).toEqual({})
  })
})
