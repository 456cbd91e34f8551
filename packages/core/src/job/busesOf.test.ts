import { busesOf } from './busesOf'
import { openLine, sampleDevice, sampleJob, sampleNetwork, samplePort } from './fixtures'
import type { Line } from './model'
import { schoolOf, settingOf } from './settings'

const line = (id: string, family: string): Line => ({
  id,
  name: id,
  medium: 'field-bus',
  family,
  ...openLine,
  version: 1,
})
const node = (id: string, lineId: string, number: number | null, more: { name?: string; isMaster?: boolean } = {}) => ({
  id,
  lineId,
  name: '',
  node: number,
  isMaster: false,
  version: 1,
  ...more,
})

describe('the buses of a job', () => {
  test('each line with those on it; a two-axis drive is there twice', () => {
    const job = sampleJob({
      lines: [line('motion', 'decimal-1-64')],
      devices: [
        sampleDevice('SV-1', null, {
          kind: 'servo',
          nodes: [node('a', 'motion', 1, { name: 'axis 1' }), node('b', 'motion', 2, { name: 'axis 2' })],
        }),
        sampleDevice('MC', null, { nodes: [node('m', 'motion', null, { isMaster: true })] }),
      ],
    })
    expect(busesOf(job)[0]?.holders.map((each) => [each.tag, each.node, each.isMaster, each.defaultNode])).toEqual([
      ['SV-1 axis 1', 1, false, 1],
      ['SV-1 axis 2', 2, false, 1],
      ['MC', undefined, true, undefined],
    ])
  })

  test('behind each gateway the units that it passes requests on to', () => {
    const behind = (tag: string, unitId: number | null) =>
      sampleDevice(tag, null, { behindId: 'GW', ports: [], unitId })
    const job = sampleJob({
      devices: [
        sampleDevice('GW', '10.20.40.40'),
        behind('A', 1),
        behind('B', 247),
        behind('C', null),
        behind('D', 255),
      ],
    })
    const [bus] = busesOf(job)
    expect(bus).toMatchObject({ name: 'the units behind GW' })
    expect(bus?.holders.map((each) => [each.tag, each.field])).toEqual([
      ['A', 'unitId'],
      ['B', 'unitId'],
    ])
  })

  test('one that sits on a line of units is not counted a second time', () => {
    const device = sampleDevice('A', null, { behindId: 'GW', ports: [], unitId: 3, nodes: [node('n', 'serial', 3)] })
    const job = sampleJob({ lines: [line('serial', 'decimal-1-247')], devices: [sampleDevice('GW', null), device] })
    expect(busesOf(job).map((bus) => bus.holders.length)).toEqual([1])
  })

  test.each([
    ['unit 3', 'decimal-1-247', 3, true],
    ['3', 'decimal-1-247', 3, true],
    ['Node 10', 'octal-0-77', 8, true],
    ['node 10', 'octal-0-77', 10, false],
    ['not seen yet', 'decimal-1-247', 3, false],
    ['unit 4', 'decimal-1-247', 3, false],
  ])('found at %j on %s, planned at decimal %i: settled is %s', (asFound, family, number, settled) => {
    const device = sampleDevice('A', null, { asFound, ports: [], nodes: [node('n', 'L', number)] })
    expect(busesOf(sampleJob({ lines: [line('L', family)], devices: [device] }))[0]?.holders[0]?.isSettled).toBe(
      settled,
    )
  })
})

test('a device is set as its kind is, unless it says otherwise', () => {
  const job = sampleJob()
  const asKind = sampleDevice('U', null, { kind: 'ups-card' })
  expect(settingOf(job, asKind)).toEqual({
    way: 'serial-menu',
    effective: 'save-and-restart',
    startUpSeconds: 150,
    handsOnSeconds: 300,
  })
  expect(settingOf(job, { ...asKind, setting: 'web-page', startUpSeconds: 0 })).toMatchObject({
    way: 'web-page',
    startUpSeconds: 0,
  })
})

test('an address lives where its port says, else where its network says, else in the device', () => {
  const job = sampleJob({ networks: [sampleNetwork({ school: 'dhcp-reservation' })] })
  expect(schoolOf(job, samplePort(null))).toBe('dhcp-reservation')
  expect(schoolOf(job, samplePort(null, { school: 'static' }))).toBe('static')
  expect(schoolOf(job, samplePort(null, { networkId: null }))).toBe('static')
})
