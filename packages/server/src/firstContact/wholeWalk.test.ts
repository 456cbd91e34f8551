import { randomUUID } from 'node:crypto'
import type { BenchLaptopView } from '@calm/contract/live'
import type { Job } from '@calm/core/job'
import { formatIpv4 } from '@calm/core/address'
import type { WalkRecord, WalkStep } from '@calm/core/procedure'
import { doInMenu, quietOptions } from '../fixtures'
import { start, type Running } from '../start'
import { apiOf, begin as beginOrder, Hands, walkOn, type InHand } from './fixtures/walking'

jest.setTimeout(120_000)

let running: Running
beforeAll(async () => {
  running = await start({ ...quietOptions, demo: 'small' })
})
afterAll(() => running.stop())

const api = apiOf(() => running.url)
const origin = () => running.url.replace(/\/$/, '')
const at = new Hands(api)

/** Keys of the drive, in local. */
async function keypad(tag: string, address: string): Promise<void> {
  await at.act(tag, { act: 'turn', id: 'mode', value: 'local' })
  await at.turnOctets(tag, address.split('.').map(Number))
}

const page = async (tag: string, typed: readonly string[]) => expect(await at.page(tag, typed)).toContain('Written')

/** A reset as its run says it, and a restart. */
async function reset(tag: string, { step }: WalkStep): Promise<void> {
  const acts: Readonly<Record<string, readonly object[]>> = {
    'mode-service': [{ act: 'turn', id: 'mode', value: 'service' }],
    off: [{ act: 'power', on: false }],
    button: [{ act: 'turn', id: 'button', value: 'pressed' }],
    on: [{ act: 'power', on: true }],
    'mode-switch': [{ act: 'turn', id: 'mode', value: 'run' }],
    count: [1, 2, 3].map(() => ({ act: 'press', id: 'reset', seconds: 0.2 })),
    restore: [{ act: 'press', id: 'restore', seconds: 0 }],
    restart: [{ act: 'press', id: 'restart', seconds: 3 }],
    steady: [{ act: 'turn', id: 'button', value: 'let go' }],
    confirm: [{ act: 'press', id: 'reset', seconds: 3.2 }],
  }
  for (const body of acts[step.id] ?? []) await at.act(tag, body)
}

/** What hands do at the stand-ins of the rehearsal. */
async function hands(inHand: InHand): Promise<void> {
  const { job, stop, step, tag } = inHand
  const { action } = stop
  const { kind, id, check, type = [] } = step.step
  const picture = (when: string) =>
    api('POST', `/jobs/${job.id}/pictures`, { when, notes: [], fieldList: 'VAV 1\tok\nVAV 2\tok' })
  if (check === 'before-picture') await picture('before')
  if (check === 'returned') await picture('after')
  // Somebody scans a bag while the program listens.
  if (check === 'text-arrives') setTimeout(() => void at.act('SC-701', { act: 'press', id: 'scan', seconds: 0 }), 300)
  if (kind === 'check' || kind === 'record' || kind === 'decide') return
  if (kind === 'turn') {
    // A press too short counts for nothing; then the right one.
    await at.act('MH-510', { act: 'press', id: tag, seconds: 0.2 })
    return at.act('MH-510', { act: 'press', id: tag, seconds: 2.2 })
  }
  if (kind === 'do' || kind === 'set') {
    await at.usual(inHand)
    if (action?.kind === 'set' && id === 'octets') await keypad(tag, formatIpv4(action.to.address))
    if (action?.kind === 'set' && id === 'type') await page(tag, type)
    if (stop.onDemand !== null && id === 'address') await page(tag, type)
    if (step.menu) {
      const { end } = await doInMenu(origin(), job.id, `via=bench:${tag}`, step.key)
      expect(end).toMatchObject({ state: 'done' })
    }
    if (id === 'search') await at.act('MH-510', { act: 'press', id: 'search', seconds: 0 })
  }
  if (stop.onDemand !== null || tag === 'SUP-801') await reset(tag, step)
}

test('the rehearsal is walked from the first step to the last on the stand-ins', async () => {
  const jobs = await api<readonly { id: string; name: string }[]>('GET', '/jobs')
  const jobId = jobs.find((each) => each.name.includes('rehearsal'))?.id ?? ''
  const { laptop } = await api<{ laptop: BenchLaptopView }>('GET', '/bench-fronts')
  await api('PUT', '/bench-laptop', { ...laptop, speed: 100 })
  await beginOrder(api, jobId)
  const { record, stops, overridden } = await walkOn(api, jobId, hands)
  expect(overridden).toEqual([])
  const job = await api<Job>('GET', `/jobs/${jobId}`)
  const verified = job.devices
    .filter((device) =>
      record.facts.some(
        (fact) => fact.deviceId === device.id && fact.setting === 'address' && fact.standing === 'verified',
      ),
    )
    .map((device) => device.tag)
  expect(verified).toEqual([
    'PLC-101',
    'PD-101',
    'PD-102',
    'RIO-111',
    'MH-510',
    'UPS-401',
    'RCU-301',
    'SC-701',
    'SUP-801',
  ])
  // A row of three is one stop, and each has the number that was read back.
  expect(stops.filter((stop) => stop.key.startsWith('row ')).map((stop) => stop.steps.length)).toEqual([8])
  expect(
    record.facts.filter((fact) => fact.setting === 'unit-id' && fact.standing === 'in-force').map((fact) => fact.text),
  ).toEqual(['1', '2', '3'])
  // What was read off the labels went into the line-up.
  expect(job.devices.find((device) => device.tag === 'PD-102')?.serialNumber).toBe('S4 7C14')
  // The laptop's address is one temporary thing, however often it moved.
  expect(record.temporary.filter((thing) => thing.backAt === null).map((thing) => thing.what)).toEqual([
    'Laptop at 10.20.41.254/24',
  ])
  const log = await api<{ whole: boolean }>('GET', `/jobs/${jobId}/log`)
  expect(log.whole).toBe(true)
})

describe('a run begun beside the order', () => {
  let jobId = ''
  const begin = async (tag: string, runId: string) => {
    const job = await api<Job>('GET', `/jobs/${jobId}`)
    const record = await api<WalkRecord>('GET', `/jobs/${jobId}/walk`)
    const deviceId = job.devices.find((device) => device.tag === tag)?.id ?? ''
    const begun = { id: randomUUID(), deviceId, runId }
    await api('PUT', `/jobs/${jobId}/walk/settings`, {
      version: record.version,
      settings: { ...record.settings, onDemand: [...record.settings.onDemand, begun] },
    })
    return { deviceId }
  }
  beforeAll(async () => {
    const jobs = await api<readonly { id: string; name: string }[]>('GET', '/jobs')
    jobId = jobs.find((each) => each.name.includes('rehearsal'))?.id ?? ''
  })

  test('one that is for other devices is refused, and what there is said', async () => {
    await expect(begin('PD-101', 'factory-reset')).rejects.toThrow(/cannot be begun for PD-101/)
    await expect(begin('PD-101', 'web-page')).rejects.toThrow(/a run that can be begun at any time/)
    await expect(begin('PD-101', 'no-such-run')).rejects.toThrow(/no such run/)
  })

  test('a unit in service is reset, restored and brought back to its address, on its stand-in', async () => {
    const { deviceId } = await begin('RCU-301', 'factory-reset')
    await expect(begin('RCU-301', 'restart')).rejects.toThrow(/Another run is in hand for RCU-301/)
    const { record, overridden } = await walkOn(api, jobId, hands)
    expect(overridden).toEqual([])
    const addresses = record.facts.filter((fact) => fact.deviceId === deviceId && fact.setting === 'address')
    expect(addresses.slice(-4).map(({ standing, text }) => `${standing} ${text}`)).toEqual([
      'in-force 192.168.61.3',
      'entered 10.20.40.70',
      'in-force 10.20.40.70',
      'verified 10.20.40.70',
    ])
    expect(record.temporary.filter((thing) => thing.backAt === null).map((thing) => thing.what)).toEqual([
      expect.stringMatching(/^Laptop at 10\.20\.40\./),
    ])
    const log = await api<{ entries: readonly { text: string }[]; whole: boolean }>('GET', `/jobs/${jobId}/log`)
    expect(JSON.stringify(log)).toContain('Begun beside the order: Factory reset and restore: RCU-301')
    expect(log.whole).toBe(true)
  })
})
