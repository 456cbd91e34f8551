import type { FrontAct } from '@calm/contract/live'
import type { Device, Job } from '@calm/core/job'
import { sampleDevice, sampleJob } from '@calm/core/job/fixtures'
import { blankWalk, bringUpJobOf, planWalk, walkOf, type CheckId, type WalkRecord } from '@calm/core/procedure'
import { ExchangePool } from '../exchange'
import { startTestApp, type TestApp } from '../fixtures/testApp'
import { makeCheck } from './checks'

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
}

/** Makes a check for a device on the bench. */
async function check(id: CheckId, device: Device | undefined, around: Around = {}) {
  const job: Job = { ...sampleJob({ devices: [...(device ? [device] : []), ...(around.others ?? [])] }), mode: 'bench' }
  const record = around.record ?? blankWalk
  const given = bringUpJobOf(job, record, [])
  const plan = planWalk(given, [], [], 1)
  const [stop] = 'answer' in plan ? walkOf(job, record, plan.answer.actions, given) : []
  if (!stop) throw new Error('no stop')
  const { result } = await makeCheck(
    {
      context: { pool, bench: app.running.bench, clock: Date.now },
      job,
      record,
      stop,
      device,
      now: Date.now(),
      pictures: () => Promise.resolve({ before: undefined, after: undefined }),
    },
    id,
  )
  return { ...result, ok: result.verdict === 'passed' }
}

const meter = (more: Partial<Device> = {}) => sampleDevice('EM-501', '10.20.40.50', { asFound: '10.20.40.50', ...more })
const front = async (tag: string, ...acts: readonly FrontAct[]) => {
  for (const act of acts) await app.running.bench.act(tag, act)
}
const laptop = (address: string, cable = 'switch') =>
  app.running.bench.setLaptop({ addresses: [{ address, prefix: 24 }], cable, speed: 100 })
const pause = (milliseconds: number) => new Promise((done) => setTimeout(done, milliseconds))

test('a step without a device cannot ask about one', async () => {
  const other = meter()
  expect(await check('order-code', undefined, { others: [other] })).toMatchObject({
    verdict: 'not-conclusive',
    say: 'This step names no device.',
  })
})

describe('what is seen live, on the bench', () => {
  test('a device answers at its planned address, with what it says it is', async () => {
    laptop('10.20.40.5')
    const seen = await check('reached-planned', meter())
    expect(seen).toMatchObject({ ok: true, how: 'read-live' })
    expect(seen.say).toContain('10.20.40.50 answers at port 502: Sample maker, EM-3F')
  })

  test('silent where it was said to be, the planned address is looked at too, and what was seen at both is told', async () => {
    laptop('10.20.40.5')
    const there = await check('reached-present', meter({ asFound: '10.20.40.99' }))
    expect(there).toMatchObject({ verdict: 'failed', compared: 2, of: 2 })
    expect(there.say).toContain('Nothing answers at 10.20.40.99. At its planned address, 10.20.40.50, somebody answers')
    const nowhere = sampleDevice('X-1', '10.20.40.98', { asFound: '10.20.40.99' })
    expect((await check('reached-present', nowhere)).say).toContain('Nor does anything at 10.20.40.98, as planned.')
  })

  test('who answers is told by what identifies it, not by how it is called', async () => {
    const wrong = sampleDevice('INV-301', '10.20.40.50')
    const right = sampleDevice('EM-501', '10.20.40.51')
    const seen = await check('reached-planned', wrong, { others: [right] })
    expect(seen).toMatchObject({ verdict: 'not-conclusive' })
    expect(seen.say).toContain('It is called EM-501.')
    const planned = { ...wrong, orderCode: 'HI-12-B' }
    const known = await check('reached-planned', planned, { others: [{ ...right, orderCode: 'EM-3F-E' }] })
    expect(known).toMatchObject({ verdict: 'failed' })
    expect(known.say).toContain('the order code of EM-501, not of INV-301')
  })

  test('nobody answers: from another subnet, and where nobody is', async () => {
    laptop('192.168.66.5')
    expect(await check('reached-planned', meter())).toMatchObject({
      verdict: 'not-conclusive',
      say: 'Nothing answers at 10.20.40.50, and the laptop is in no subnet of it: that says nothing.',
    })
    laptop('10.20.40.5')
    expect((await check('reached-planned', sampleDevice('X', '10.20.40.99'))).verdict).toBe('failed')
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
    expect(seen).toMatchObject({ ok: false, say: 'Silent: MM-512 (2). 2 of 2 compared.' })
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
      say: 'First leg, MH-510: it answers. Second leg, unit 9: silent. 2 of 2 looked at.',
    })
    await front('MH-510', { act: 'power', on: false })
    expect((await check('reached-present', behind(1), { others: [head] })).say).toBe(
      'First leg, MH-510: Nothing answers at 10.20.40.55. 1 of 2 looked at.',
    )
  })
})
