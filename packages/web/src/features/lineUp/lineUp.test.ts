import { checkPlan, formatIpv4 } from '@calm/core/address'
import { addressPlanOf, type Job } from '@calm/core/job'
import { instant } from '@calm/core/units'
import { sampleDevice, sampleHandshake, sampleJob, sampleNetwork } from '@calm/core/job/fixtures'
import { busiestNetwork } from './busiestNetwork'
import { linesOf } from './table'
import { readAddress, readLine, readTag, readUnit } from './panel'
import { tapeOf } from './tape'

const findingsOf = (job: Job) => checkPlan(addressPlanOf(job, []))
const lines = (job: Job) => linesOf(job, findingsOf(job))

describe('the lines of the line-up', () => {
  test('devices behind another one come right after it, the last one marked', () => {
    const job = sampleJob({
      devices: [
        sampleDevice('FM-2', null, { behindId: 'GW', ports: [] }),
        sampleDevice('PLC', '10.20.40.10'),
        sampleDevice('GW', '10.20.40.40', { kind: 'gateway' }),
        sampleDevice('FM-1', null, { behindId: 'GW', ports: [] }),
      ],
    })
    expect(lines(job).map((line) => [line.device.tag, line.behind?.tag, line.lastBehind])).toEqual([
      ['PLC', undefined, false],
      ['GW', undefined, false],
      ['FM-2', 'GW', false],
      ['FM-1', 'GW', true],
    ])
  })

  test('devices that hang behind each other are still shown, once', () => {
    const job = sampleJob({
      devices: [sampleDevice('A', null, { behindId: 'B' }), sampleDevice('B', null, { behindId: 'A' })],
    })
    expect(
      lines(job)
        .map((line) => line.device.tag)
        .sort(),
    ).toEqual(['A', 'B'])
  })

  test('what will not work stands before everything else', () => {
    const job = sampleJob({
      devices: [sampleDevice('A', '10.20.40.60'), sampleDevice('B', '10.20.40.60')],
      handshakes: [sampleHandshake('A', 'B')],
    })
    expect(lines(job)[1]).toMatchObject({ state: 'at-odds', say: 'Two devices, one address' })
  })

  test('a controller and a gateway say what they are there for', () => {
    const job = sampleJob({
      devices: [
        sampleDevice('PLC', '10.20.40.10', { kind: 'controller' }),
        sampleDevice('GW', '10.20.40.40', { kind: 'gateway' }),
        sampleDevice('FM', null, { behindId: 'GW', ports: [] }),
        sampleDevice('X', '10.20.40.50'),
      ],
      handshakes: [sampleHandshake('PLC', 'FM')],
    })
    expect(lines(job).map((line) => line.say)).toEqual([
      'Asks 1 device',
      'Carries 1 device',
      'Safe next',
      'No handshake yet',
    ])
  })

  test('what waits, what is parked and what is at odds on the ladder show in the row', () => {
    const decision = (state: 'waiting' | 'parked') => ({
      id: 'd',
      rung: 'reached' as const,
      state,
      reason: 'Restarting',
      who: 'R. Osei',
      at: instant(1),
    })
    const withDecision = (state: 'waiting' | 'parked') =>
      lines(
        sampleJob({
          devices: [sampleDevice('PLC', '10.20.40.10'), sampleDevice('X', '10.20.40.50')],
          handshakes: [sampleHandshake('PLC', 'X', { decisions: [decision(state)] })],
        }),
      )[1]
    expect(withDecision('waiting')).toMatchObject({ state: 'waiting', say: 'Restarting' })
    expect(withDecision('parked')).toMatchObject({ state: 'parked', say: 'Restarting (R. Osei)' })
  })
})

describe('the address tape', () => {
  const job = sampleJob({
    devices: [
      sampleDevice('PLC', '10.20.40.10', { asFound: '10.20.40.10' }),
      sampleDevice('A', '10.20.40.60'),
      sampleDevice('B', '10.20.40.60'),
      sampleDevice('C', '10.20.40.61', { asFound: '10.20.40.157' }),
    ],
  })
  const tick = (host: number) => tapeOf(job, 'process', 0)?.ticks[host]

  test('has one tick for each address of a /24, each in its state', () => {
    expect(tapeOf(job, 'process', 0)?.ticks).toHaveLength(256)
    expect(tick(1)?.state).toBe('gateway')
    expect(tick(5)?.state).toBe('reserved')
    expect(tick(10)).toMatchObject({ state: 'used', tags: ['PLC'] })
    expect(tick(60)).toMatchObject({ state: 'twice', tags: ['A', 'B'], deviceIds: ['A', 'B'] })
    expect(tick(61)?.state).toBe('planned')
    expect(tick(157)).toMatchObject({ state: 'dhcp', foundHere: ['C'] })
    expect(tick(200)?.state).toBe('free')
  })

  test('the count of free addresses is what counting the free ticks gives', () => {
    const tape = tapeOf(job, 'process', 0)
    // Network and broadcast address are drawn as free ground, but no device can have them.
    const free = tape?.ticks.filter((each, k) => each.state === 'free' && k !== 0 && k !== 255).length
    expect(tape?.freeCount).toBe(free)
  })

  test('a larger network is shown in pieces, a smaller one whole', () => {
    const wide = { ...job, networks: [sampleNetwork({ cidr: '10.20.40.0/22', gateway: null, dhcp: '', reserved: '' })] }
    const second = tapeOf(wide, 'process', 1)
    expect(second).toMatchObject({ windowCount: 4, windowIndex: 1 })
    expect(second && formatIpv4(second.window.first)).toBe('10.20.41.0')
    expect(tapeOf(wide, 'process', 99)?.windowIndex).toBe(3)
    const narrow = {
      ...job,
      networks: [sampleNetwork({ cidr: '10.20.40.8/30', gateway: null, dhcp: '', reserved: '' })],
    }
    expect(tapeOf(narrow, 'process', 0)?.ticks).toHaveLength(4)
    expect(tapeOf(job, 'unknown', 0)).toBeUndefined()
  })

  test('the network that most devices are planned for is shown first', () => {
    const two = {
      ...job,
      networks: [sampleNetwork({ id: 'office', name: 'a office', cidr: '10.20.41.0/24' }), sampleNetwork()],
    }
    expect(busiestNetwork(two)).toBe('process')
    expect(busiestNetwork({ ...job, networks: [] })).toBeUndefined()
  })
})

describe('what the fields take', () => {
  test('blank is allowed where a plan may leave something open', () => {
    expect(readAddress('').ok).toBe(true)
    expect(readUnit(' ').ok).toBe(true)
    expect(readTag(' ').ok).toBe(false)
  })
  test('and what cannot be is refused', () => {
    expect(readAddress('10.20.40.256').ok).toBe(false)
    expect(readUnit('248').ok).toBe(false)
    expect(readLine('x'.repeat(121)).ok).toBe(false)
  })
})
