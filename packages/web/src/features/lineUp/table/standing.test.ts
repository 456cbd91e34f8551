import { addressPlanOf, type AskedOfOthers, type Device, type Job } from '@calm/core/job'
import { openLine, sampleDevice, sampleJob } from '@calm/core/job/fixtures'
import { checkLineUp, standingFindings } from '@calm/core/lineUp'
import { deviceIdsOfRows, troubledDevices } from '../../../job'
import { linesOf } from './lines'

const line = {
  id: 'L',
  name: 'bus',
  medium: 'field-bus',
  family: 'decimal-0-125',
  ...openLine,
  version: 1,
} as const
const onBus = (tag: string, node: number, more: Partial<Device> = {}) =>
  sampleDevice(tag, null, {
    ports: [],
    nodes: [{ id: `${tag}-node`, lineId: 'L', name: '', node, isMaster: false, version: 1 }],
    ...more,
  })
const request: AskedOfOthers = {
  id: 'r',
  about: 'range',
  what: 'Addresses',
  toWhom: '',
  deviceIds: ['A'],
  askedOn: '2026-11-01',
  dueOn: null,
  answer: '',
  answeredOn: null,
  version: 1,
}
const found = (job: Job) => checkLineUp(job, addressPlanOf(job, []))
const lineOf = (job: Job, tag: string) => linesOf(job, found(job)).find((each) => each.device.tag === tag)

describe('how a line stands', () => {
  test('what is found at a node, a port or the device itself stands in the device’s line', () => {
    const job = sampleJob({
      lines: [line],
      devices: [onBus('A', 7), onBus('B', 7), sampleDevice('C', '10.20.40.40', { hostName: 'c_1' })],
    })
    expect(lineOf(job, 'A')).toMatchObject({ state: 'at-odds', say: 'Two devices, one node' })
    expect(lineOf(job, 'C')).toMatchObject({ state: 'at-odds', say: 'Not a host name' })
    expect([...troubledDevices(job, found(job))].sort()).toEqual(['A', 'B', 'C'])
  })

  test('what it waits for comes after what will not work, and before everything else', () => {
    const waiting = sampleJob({ devices: [sampleDevice('A', null)], requests: [request] })
    expect(lineOf(waiting, 'A')).toMatchObject({ state: 'waiting', say: 'Waits for: Addresses' })
    const both = { ...waiting, devices: [sampleDevice('A', null, { hostName: '-a' })] }
    expect(lineOf(both, 'A')?.state).toBe('at-odds')
    const answered = { ...waiting, requests: [{ ...request, answeredOn: '2026-11-02' }] }
    expect(lineOf(answered, 'A')?.state).toBe('not-started')
  })

  test('what was let stand does not stand in the line any more', () => {
    const job = sampleJob({ devices: [sampleDevice('C', '10.20.40.40', { hostName: 'c_1' })] })
    const acceptance = {
      id: 'a',
      rule: 'device.host-name-form',
      subjectId: 'C',
      found: 'c_1',
      reason: 'an old name server takes it',
      who: 'R. Osei',
      at: 1,
      version: 1,
    }
    const { open } = standingFindings(found(job), [acceptance])
    expect(linesOf(job, open)[0]?.state).toBe('not-started')
  })

  test('worth knowing is said, and is not at odds', () => {
    const twin = (tag: string, node: number) => onBus(tag, node, { kind: 'unknown-kind' })
    const job = sampleJob({ lines: [line], devices: [twin('A', 1), twin('B', 2)] })
    expect(lineOf(job, 'A')).toMatchObject({ state: 'not-started', say: 'A kind that is not known here' })
    expect(troubledDevices(job, found(job)).size).toBe(0)
  })
})

test('every row of a device leads to it', () => {
  const job = sampleJob({ lines: [line], devices: [onBus('A', 1), sampleDevice('B', '10.20.40.2')] })
  const owners = deviceIdsOfRows(job)
  expect([owners.get('A'), owners.get('A-node'), owners.get('B-port'), owners.get('process')]).toEqual([
    'A',
    'A',
    'B',
    undefined,
  ])
})
