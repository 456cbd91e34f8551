import type { CheckAnswer } from '@calm/contract/api'
import { randomUUID } from 'node:crypto'
import type { BenchLaptopView, FrontView } from '@calm/contract/live'
import type { Job } from '@calm/core/job'
import { formatIpv4 } from '@calm/core/address'
import type { HostAddress } from '@calm/core/sequence'
import {
  bringUpJobOf,
  isSettled,
  planWalk,
  walkOf,
  type LaptopState,
  type Stop,
  type WalkRecord,
  type WalkStep,
} from '@calm/core/procedure'
import { doInMenu, quietOptions } from '../fixtures'
import { start, type Running } from '../start'
import { laptopSubnets } from './walkNow'

jest.setTimeout(120_000)

let running: Running
beforeAll(async () => {
  running = await start({ ...quietOptions, demo: true })
})
afterAll(() => running.stop())

async function api<T>(method: string, path: string, body?: unknown): Promise<T> {
  const response = await fetch(`${running.url}api${path}`, {
    method,
    ...(body === undefined ? {} : { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }),
  })
  const text = await response.text()
  if (!response.ok) throw new Error(`${method} ${path}: ${response.status} ${text}`)
  return (text === '' ? undefined : JSON.parse(text)) as T
}

const origin = () => running.url.replace(/\/$/, '')
const pause = (milliseconds: number) => new Promise((done) => setTimeout(done, milliseconds))

/** Hands at the bench, and what they do for a step: as a person would, at fronts, pages and the console. */
class Hands {
  constructor(readonly job: Job) {}

  async fronts(): Promise<{ readonly fronts: readonly FrontView[]; readonly laptop: BenchLaptopView }> {
    return api('GET', '/bench-fronts')
  }

  async power(group: string, on: boolean): Promise<void> {
    for (const front of (await this.fronts()).fronts.filter((each) => each.breaker === group))
      await api('POST', `/bench-fronts/${front.tag}`, { act: 'power', on })
  }

  async laptopTo(into: HostAddress | null): Promise<void> {
    const { laptop } = await this.fronts()
    const address = into && formatIpv4(into.address)
    await api('PUT', '/bench-laptop', { ...laptop, addresses: [{ address, prefix: into?.prefix }] })
  }

  /** Keys of the drive: each octet up or down from what it shows. */
  async keypad(tag: string, address: string): Promise<void> {
    const press = (id: string) => api('POST', `/bench-fronts/${tag}`, { act: 'press', id, seconds: 0 })
    await api('POST', `/bench-fronts/${tag}`, { act: 'turn', id: 'mode', value: 'local' })
    for (const octet of address.split('.').map(Number)) {
      await press('menu')
      for (let tries = 0; tries < 60; tries += 1) {
        const front = (await this.fronts()).fronts.find((each) => each.tag === tag)
        const shown = Number(front?.display?.split(': ')[1])
        if (shown === octet) break
        const far = (octet - shown + 256) % 256
        await press(far >= 10 && far <= 246 ? (far < 128 ? 'ten-up' : 'ten-down') : far < 128 ? 'up' : 'down')
      }
    }
    await press('menu')
  }

  async page(tag: string, [address = '', mask = '', gateway = '']: readonly string[]): Promise<void> {
    const front = (await this.fronts()).fronts.find((each) => each.tag === tag)
    const answer = await fetch(front?.page ?? '', {
      method: 'POST',
      body: new URLSearchParams({ address, mask, gateway }).toString(),
    })
    expect(await answer.text()).toContain('Written')
  }

  /** A reset as its run says it, and a restart. */
  async reset(tag: string, { step }: WalkStep): Promise<void> {
    const act = (body: object) => api('POST', `/bench-fronts/${tag}`, body)
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
    for (const body of acts[step.id] ?? []) await act(body)
  }
}

const STEPS_AT_MOST = 400

/** Walks a job from where it is to the end, as a page would: plan, begin, then always the first step that is open. */
async function walk(
  jobId: string,
): Promise<{ record: WalkRecord; stops: readonly Stop[]; overridden: readonly string[] }> {
  const job = await api<Job>('GET', `/jobs/${jobId}`)
  const hands = new Hands(job)
  const laptop = await api<LaptopState>('GET', `/jobs/${jobId}/laptop`)
  const first = await api<WalkRecord>('GET', `/jobs/${jobId}/walk`)
  const plan = planWalk(bringUpJobOf(job, first, laptopSubnets(laptop)), [], [], 1)
  if (!('answer' in plan)) throw new Error('no order')
  expect(plan.leftOut).toEqual([])
  await api('PUT', `/jobs/${jobId}/walk/order`, { version: first.version, order: plan.answer.actions })
  return walkOn(jobId, hands)
}

async function walkOn(
  jobId: string,
  hands: Hands,
): Promise<{ record: WalkRecord; stops: readonly Stop[]; overridden: readonly string[] }> {
  for (let count = 0; count < STEPS_AT_MOST; count += 1) {
    const now = await api<Job>('GET', `/jobs/${jobId}`)
    const record = await api<WalkRecord>('GET', `/jobs/${jobId}/walk`)
    const stops = walkOf(now, record, record.order, bringUpJobOf(now, record, []))
    const stop = stops.find((each) => each.state !== 'settled')
    const step = stop?.steps.find((each) => !isSettled(each))
    if (!stop || !step)
      return {
        record,
        stops,
        overridden: record.steps.filter((each) => each.state === 'overridden').map((each) => each.stepKey),
      }
    await settle(now, hands, stop, step)
  }
  throw new Error(`not at the end after ${STEPS_AT_MOST} steps`)
}

async function settle(job: Job, hands: Hands, stop: Stop, step: WalkStep): Promise<void> {
  const path = `/jobs/${job.id}/walk`
  const done = (note: string) =>
    api('POST', `${path}/steps`, { stepKey: step.key, state: 'done', note, seen: step.record?.version ?? 0 })
  const device = job.devices.find((each) => each.id === step.deviceId)
  const front = (await hands.fronts()).fronts.find((each) => each.tag === device?.tag)
  const { action } = stop
  switch (step.step.kind) {
    case 'wait': {
      if (stop.onDemand !== null) await hands.reset(device?.tag ?? '', step)
      if (step.record?.state !== 'waiting') await api('POST', `${path}/wait`, { stepKey: step.key })
      for (let tries = 0; tries < 100; tries += 1) {
        const record = await api<WalkRecord>('GET', path)
        const now = record.steps.find((each) => each.stepKey === step.key)
        if (now?.state === 'unexpected') throw new Error(`${stop.title}: ${now.note}`)
        if (now?.state === 'done') return
        await pause(100)
      }
      throw new Error(`${stop.title}: the wait for ${step.step.say} did not end`)
    }
    case 'check': {
      if (step.step.check === 'before-picture')
        await api('POST', `/jobs/${job.id}/pictures`, { when: 'before', notes: [], fieldList: 'VAV 1\tok\nVAV 2\tok' })
      if (step.step.check === 'returned')
        await api('POST', `/jobs/${job.id}/pictures`, { when: 'after', notes: [], fieldList: 'VAV 1\tok\nVAV 2\tok' })
      // Somebody scans a bag while the program listens.
      if (step.step.check === 'text-arrives')
        setTimeout(() => void api('POST', '/bench-fronts/SC-701', { act: 'press', id: 'scan', seconds: 0 }), 300)
      const answer = await api<CheckAnswer>('POST', `${path}/check`, { stepKey: step.key })
      if (answer.verdict !== 'passed') throw new Error(`${stop.title}: ${step.step.say} ${answer.say}`)
      return
    }
    case 'record': {
      const label = front?.label.join(' ') ?? ''
      const texts: Readonly<Record<string, string>> = {
        'order-code': device?.orderCode || 'none',
        'serial-number': /serial number (S4 \w+)/.exec(label)?.[1] ?? 'none',
        mac: /hardware address (\S+)/.exec(label)?.[1] ?? '',
        'unit-id': String(device?.unitId ?? 1),
        'unit-code': '4711',
      }
      return void (await done(texts[step.step.record ?? ''] ?? `written down for ${step.step.id}`))
    }
    case 'decide':
      return void (await done(step.step.choices?.[0]?.say ?? ''))
    case 'do':
    case 'set': {
      if (action?.kind === 'laptop' && step.step.id === 'set') await hands.laptopTo(stop.laptop)
      if (step.step.laptop && step.laptop) await hands.laptopTo(step.laptop)
      if (action?.kind === 'group-on' && step.step.id === 'on') await hands.power(action.groupId, true)
      if (action?.kind === 'group-off' && step.step.id === 'off') await hands.power(action.groupId, false)
      if (action?.kind === 'set' && step.step.id === 'octets')
        await hands.keypad(device?.tag ?? '', formatIpv4(action.to.address))
      if (action?.kind === 'set' && step.step.id === 'type') await hands.page(device?.tag ?? '', step.step.type ?? [])
      if (stop.onDemand !== null && step.step.id === 'address')
        await hands.page(device?.tag ?? '', step.step.type ?? [])
      if (step.menu) {
        const { end } = await doInMenu(origin(), job.id, `via=bench:${device?.tag ?? ''}`, step.key)
        expect(end).toMatchObject({ state: 'done' })
      }
      if (stop.onDemand !== null || device?.tag === 'SUP-801') await hands.reset(device?.tag ?? '', step)
      if (step.step.id === 'search')
        await api('POST', '/bench-fronts/MH-510', { act: 'press', id: 'search', seconds: 0 })
      return void (await done(''))
    }
    case 'turn': {
      // A press too short counts for nothing; then the right one.
      await api('POST', '/bench-fronts/MH-510', { act: 'press', id: device?.tag ?? '', seconds: 0.2 })
      await api('POST', '/bench-fronts/MH-510', { act: 'press', id: device?.tag ?? '', seconds: 2.2 })
      return void (await done(''))
    }
    default:
      if (stop.onDemand !== null) await hands.reset(device?.tag ?? '', step)
      return void (await done(''))
  }
}

test('the rehearsal is walked from the first step to the last on the stand-ins', async () => {
  const jobs = await api<readonly { id: string; name: string }[]>('GET', '/jobs')
  const jobId = jobs.find((each) => each.name.includes('rehearsal'))?.id ?? ''
  const { laptop } = await api<{ laptop: BenchLaptopView }>('GET', '/bench-fronts')
  await api('PUT', '/bench-laptop', { ...laptop, speed: 100 })
  const { record, stops, overridden } = await walk(jobId)
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
    return { job, deviceId }
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
    const { job, deviceId } = await begin('RCU-301', 'factory-reset')
    await expect(begin('RCU-301', 'restart')).rejects.toThrow(/Another run is in hand for RCU-301/)
    const { record, overridden } = await walkOn(jobId, new Hands(job))
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
