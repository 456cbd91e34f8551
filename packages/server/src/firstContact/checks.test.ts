import type { FrontAct } from '@calm/contract/live'
import type { Device, Job } from '@calm/core/job'
import { sampleDevice, sampleJob } from '@calm/core/job/fixtures'
import {
  blankWalk,
  bringUpJobOf,
  planWalk,
  walkOf,
  type CheckId,
  type SettingFact,
  type WalkRecord,
} from '@calm/core/procedure'
import { ExchangePool } from '../exchange'
import { startTestApp, type TestApp } from '../fixtures/testApp'
import { makeCheck, type CheckPlace } from './checks'

jest.setTimeout(60_000)

let app: TestApp
const pool = new ExchangePool()
beforeAll(async () => {
  app = await startTestApp()
})
afterAll(async () => {
  pool.close()
  await app.stop()
})

interface Around {
  readonly record?: WalkRecord
  readonly others?: readonly Device[]
  readonly pictures?: Awaited<ReturnType<CheckPlace['pictures']>>
}

/** Makes a check for a device on the bench. */
async function check(id: CheckId, device: Device | undefined, around: Around = {}) {
  const job: Job = { ...sampleJob({ devices: [...(device ? [device] : []), ...(around.others ?? [])] }), mode: 'bench' }
  const record = around.record ?? blankWalk
  const given = bringUpJobOf(job, record, [])
  const plan = planWalk(given, [], [], 1)
  const [stop] = 'answer' in plan ? walkOf(job, record, plan.answer.actions, given) : []
  if (!stop) throw new Error('no stop')
  return makeCheck(
    {
      context: { pool, bench: app.running.bench, clock: Date.now },
      job,
      record,
      stop,
      device,
      pictures: async () => around.pictures ?? { before: false, lost: undefined },
    },
    id,
  )
}

const meter = (more: Partial<Device> = {}) => sampleDevice('EM-501', '10.20.40.50', { asFound: '10.20.40.50', ...more })
const fact = (device: Device, setting: string, text: string, at = 1): SettingFact => ({
  id: `${device.id}-${setting}-${at}`,
  deviceId: device.id,
  setting,
  standing: 'found',
  text,
  how: 'seen',
  who: 'R. Osei',
  at,
})
const front = async (tag: string, ...acts: readonly FrontAct[]) => {
  for (const act of acts) await app.running.bench.act(tag, act)
}
const laptop = (address: string, cable = 'switch') =>
  app.running.bench.setLaptop({ addresses: [{ address, prefix: 24 }], cable, speed: 100 })
const pause = (milliseconds: number) => new Promise((done) => setTimeout(done, milliseconds))

describe('what is computed', () => {
  test('order codes are compared whole, with the differing character', async () => {
    expect(await check('order-code', meter({ orderCode: 'PM-3C-E' }))).toMatchObject({ ok: false })
    expect(await check('order-code', meter({ orderCode: 'PM-3C-E', orderCodeFound: 'PM-3C-E' }))).toMatchObject({
      ok: true,
    })
    const differs = await check('order-code', meter({ orderCode: 'PM-3C-E', orderCodeFound: 'PM-3O-E' }))
    expect(differs).toMatchObject({ ok: false, how: 'computed' })
    expect(differs.say).toContain('They differ at character 5.')
  })

  test.each([
    ['at-least', '1.10', '1.9', true],
    ['at-least', '1.8', '1.9', false],
    ['not-above', '12.0', '11.5', false],
    ['not-above', '11.5', '11.5', true],
    ['equal', '2.0', '2.1', false],
  ] as const)('firmware %s: found %s, asked %s', async (firmwareRelation, firmwareFound, firmwareNeeded, ok) => {
    expect((await check('firmware', meter({ firmwareRelation, firmwareFound, firmwareNeeded }))).ok).toBe(ok)
  })

  test('firmware that nobody asks for fits; one that was not read does not', async () => {
    expect((await check('firmware', meter({ firmwareRelation: 'any' }))).ok).toBe(true)
    expect(
      (await check('firmware', meter({ firmwareRelation: 'at-least', firmwareNeeded: '2', firmwareFound: '' }))).ok,
    ).toBe(false)
  })

  test('a name is the same in every place, letter for letter', async () => {
    const named = (text: string) => meter({ hostName: 'sup-801', namePlaces: [{ where: 'In the server', text }] })
    expect((await check('names-equal', named('sup-801'))).ok).toBe(true)
    const other = await check('names-equal', named('sup-8O1'))
    expect(other.ok).toBe(false)
    expect(other.say).toContain('character 6')
  })

  test('two backups are two', async () => {
    const device = meter()
    const one = { ...blankWalk, facts: [fact(device, 'backup', 'old.zip')] }
    expect(await check('backups', device, { record: one })).toMatchObject({
      ok: false,
      say: '1 of 2 backups written down.',
    })
    const two = { ...one, facts: [...one.facts, fact(device, 'backup', 'new.zip', 2)] }
    expect((await check('backups', device, { record: two })).ok).toBe(true)
  })

  test('pictures: a before-picture is needed, and everything of it back', async () => {
    expect((await check('before-picture', meter())).ok).toBe(false)
    expect((await check('returned', meter())).say).toBe('A before-picture and one afterwards are needed.')
    expect((await check('returned', meter(), { pictures: { before: true, lost: ['FM-201'] } })).say).toBe(
      'Not back: FM-201.',
    )
    expect((await check('returned', meter(), { pictures: { before: true, lost: [] } })).ok).toBe(true)
  })

  test('a twin with power has to be told apart first; without power it does not matter', async () => {
    const one = sampleDevice('PD-101', '10.20.40.21', { kind: 'drive', asFound: '192.168.1.20' })
    const two = sampleDevice('PD-102', '10.20.40.22', { kind: 'drive', asFound: '192.168.1.20' })
    expect((await check('identified', one, { others: [two] })).ok).toBe(true)
    const powered = { ...blankWalk, facts: [fact(two, 'power', 'on')] }
    const unknown = await check('identified', one, { others: [two], record: powered })
    expect(unknown).toMatchObject({ ok: false })
    expect(unknown.say).toContain('PD-102 has the same address')
    const told = { ...blankWalk, facts: [...powered.facts, fact(one, 'identity', 'plug pulled')] }
    expect(await check('identified', one, { others: [two], record: told })).toMatchObject({
      ok: true,
      say: 'Identified: plug pulled.',
    })
  })

  test('a step without a device cannot ask about one', async () => {
    const other = meter()
    expect((await check('order-code', undefined, { others: [other] })).say).toBe('This step names no device.')
  })
})

describe('what is seen live, on the bench', () => {
  test('a device answers at its planned address, with what it says it is', async () => {
    laptop('10.20.40.5')
    const seen = await check('reached-planned', meter())
    expect(seen).toMatchObject({ ok: true, how: 'read-live' })
    expect(seen.say).toContain('10.20.40.50 answers at port 502: Sample maker, EM-3F')
  })

  test('another device at the address is not the one that is meant', async () => {
    const wrong = sampleDevice('INV-301', '10.20.40.50')
    const right = sampleDevice('EM-501', '10.20.40.51')
    const seen = await check('reached-planned', wrong, { others: [right] })
    expect(seen).toMatchObject({ ok: false, say: 'EM-501 answers at 10.20.40.50, not INV-301.' })
  })

  test('nobody answers: from another subnet, and where nobody is', async () => {
    laptop('192.168.66.5')
    expect((await check('reached-planned', meter())).say).toBe('Nothing answers at 10.20.40.50.')
    laptop('10.20.40.5')
    expect((await check('reached-planned', sampleDevice('X', '10.20.40.99'))).ok).toBe(false)
  })

  test('two at one address are not one that answers', async () => {
    laptop('192.168.1.5')
    for (const tag of ['PD-101', 'PD-102']) await front(tag, { act: 'power', on: true })
    await pause(400)
    await front('PD-101', { act: 'plug', on: true })
    const drive = sampleDevice('PD-101', '10.20.40.21', { kind: 'drive', asFound: '192.168.1.20' })
    let seen = await check('reached-present', drive)
    // Connections go to the one and the other in turn; two looks see both.
    if (seen.ok) seen = await check('reached-present', drive)
    expect(seen.say).toMatch(/^Two answer at 192\.168\.1\.20/)
    await front('PD-102', { act: 'power', on: false })
    expect((await check('reached-present', drive)).ok).toBe(true)
    expect((await check('gone-from-present', drive)).ok).toBe(false)
    await front('PD-101', { act: 'power', on: false })
    expect((await check('gone-from-present', drive)).ok).toBe(true)
  })

  test('the laptop is in a subnet, or it is said where it is', async () => {
    laptop('192.168.1.5')
    const drive = sampleDevice('PD-101', '10.20.40.21', { kind: 'drive', asFound: '192.168.1.20' })
    expect(await check('laptop-in-subnet', drive)).toMatchObject({
      ok: true,
      say: 'In 192.168.1.0/24: bench0 192.168.1.5/24.',
    })
    laptop('10.20.40.5')
    expect(await check('laptop-in-subnet', drive)).toMatchObject({
      ok: false,
      say: 'Not in 192.168.1.0/24: bench0 10.20.40.5/24.',
    })
    app.running.bench.setLaptop({ addresses: [], cable: 'switch', speed: 100 })
    expect((await check('laptop-in-subnet', drive)).say).toContain('no adapter with an address')
    laptop('10.20.40.5')
  })

  test('units behind a gateway: those that do not answer are named', async () => {
    await front('MH-510', { act: 'power', on: true })
    await pause(500)
    await front('MH-510', { act: 'press', id: 'search', seconds: 0 })
    await front('MH-510', { act: 'press', id: 'MM-511', seconds: 2.5 })
    const head = sampleDevice('MH-510', '10.20.40.55', { kind: 'gateway' })
    const behind = (tag: string, unitId: number) => ({
      ...sampleDevice(tag, '10.20.40.99', { unitId, behindId: head.id }),
      ports: [],
    })
    const seen = await check('units-behind', head, { others: [behind('MM-511', 1), behind('MM-512', 2)] })
    expect(seen).toMatchObject({ ok: false, say: 'Silent: MM-512 (2).' })
    await front('MH-510', { act: 'press', id: 'MM-512', seconds: 2.5 })
    expect((await check('units-behind', head, { others: [behind('MM-511', 1), behind('MM-512', 2)] })).ok).toBe(true)
  })

  test('a device behind another is reached leg by leg, the nearest first', async () => {
    const head = sampleDevice('MH-510', '10.20.40.55', { kind: 'gateway' })
    const behind = (unitId: number) => ({
      ...sampleDevice(`MM-${unitId}`, null, { unitId, behindId: head.id }),
      ports: [],
    })
    const there = await check('reached-present', behind(1), { others: [head] })
    expect(there).toMatchObject({ ok: true })
    expect(there.say).toMatch(/^First leg, MH-510: it answers\. Second leg, unit 1: it answers, .*MM-511/)
    expect(await check('reached-present', behind(9), { others: [head] })).toMatchObject({
      ok: false,
      say: 'First leg, MH-510: it answers. Second leg, unit 9: silent.',
    })
    await front('MH-510', { act: 'power', on: false })
    expect((await check('reached-present', behind(1), { others: [head] })).say).toBe(
      'First leg, MH-510: Nothing answers at 10.20.40.55.',
    )
  })
})
