import type { Job } from '@calm/core/job'
import { bringUpJobOf, latestFact, planWalk, walkOf, type WalkRecord, type WalkStep } from '@calm/core/procedure'
import { connect } from 'node:net'
import { SerialPort } from 'serialport'
import { doInMenu, portPair, startTestApp, type TestApp } from '../fixtures'

jest.setTimeout(60_000)

let app: TestApp
let job: Job
let steps: readonly WalkStep[] = []
const query = `via=${encodeURIComponent('bench:UPS-401')}`
const walk = async (): Promise<WalkRecord> => (await app.api.get(`/api/jobs/${job.id}/walk`)).body
const refresh = async () => {
  const record = await walk()
  job = await app.job('First contact rehearsal')
  const stops = walkOf(job, record, record.order, bringUpJobOf(job, record, []))
  steps = stops.flatMap((stop) => stop.steps)
  return record
}
const ups = () => job.devices.find(({ tag }) => tag === 'UPS-401')?.id ?? ''
const stepOf = (id: string, deviceId = ups()) => {
  const step = steps.find((each) => each.step.id === id && each.deviceId === deviceId)
  if (!step) throw new Error(`no step ${id}`)
  return step
}
const settle = (key: string, note: string) =>
  app.api.post(`/api/jobs/${job.id}/walk/steps`).send({ stepKey: key, state: 'done', note, seen: 0 }).expect(204)
/** The code of the unit, as somebody read it off the label. */
const writeDown = async (text: string) => {
  const fact = { deviceId: ups(), setting: 'unit-code', standing: 'found', text, how: 'typed' }
  expect((await app.api.post(`/api/jobs/${job.id}/facts`).send(fact)).status).toBeLessThan(300)
  await refresh()
}
const doIt = (id: string, with_ = query) =>
  doInMenu(`http://127.0.0.1:${app.running.port}`, job.id, with_, stepOf(id).key)
const front = (body: object) => app.api.post('/api/bench-fronts/UPS-401').send(body).expect(200)
const pause = (milliseconds: number) => new Promise((done) => setTimeout(done, milliseconds))

/** A lead from a serial port of this laptop into the socket of a stand-in: a pty pair, its far end joined to the bench. */
async function leadTo(tag: string): Promise<{ readonly port: string; readonly out: () => Promise<void> }> {
  const { fronts } = (await app.api.get('/api/bench-fronts')).body as {
    readonly fronts: readonly { readonly tag: string; readonly console: string | null }[]
  }
  const [host, port] = (fronts.find((each) => each.tag === tag)?.console ?? '').split(':')
  const pair = await portPair()
  const socket = connect(Number(port), host ?? '')
  const line = new SerialPort({ path: pair.far, baudRate: 9600, lock: true })
  line.pipe(socket).pipe(line)
  return {
    port: pair.near,
    out: async () => {
      socket.destroy()
      // The console lets go of its end first.
      await pause(300)
      await new Promise<void>((done) => line.close(() => done()))
      pair.stop()
    },
  }
}

beforeAll(async () => {
  app = await startTestApp()
  job = await app.job('First contact rehearsal')
  await app.api
    .put('/api/bench-laptop')
    .send({ addresses: [{ address: '10.20.40.5', prefix: 24 }], cable: 'switch', speed: 100 })
  const record = await walk()
  const plan = planWalk(bringUpJobOf(job, record, []), [], [], 1)
  if (!('answer' in plan)) throw new Error('no order')
  await app.api
    .put(`/api/jobs/${job.id}/walk/order`)
    .send({ version: record.version, order: plan.answer.actions })
    .expect(204)
  await front({ act: 'power', on: true })
  await pause(1_800)
  await refresh()
})
afterAll(() => app.stop())

describe('a step of the walk, done in the menu of the stand-in', () => {
  test('its cautions come first: nothing is sent before they are read', async () => {
    const { end, text } = await doIt('ups-code')
    expect(end).toMatchObject({
      state: 'stopped',
      sent: 0,
      problem: { what: 'Its cautions come before anything is sent.' },
    })
    expect(text).toBe('')
    await settle(stepOf('load').key, '')
    await refresh()
  })

  test('what is not known yet is not typed', async () => {
    const { end, text } = await doIt('ups-code')
    expect(end).toMatchObject({
      state: 'stopped',
      problem: { what: 'What is to be typed is not known yet.', expected: 'an answer to "code:"' },
    })
    expect(text).toBe('')
  })

  test('the code from the label goes in at its prompt, after user and password were typed by hand', async () => {
    await writeDown('4711')
    const { end, text, read } = await doIt('ups-code')
    expect(end).toMatchObject({ state: 'done', said: 'test data: battery 97 %, load 31 %', sent: 2, of: 2 })
    expect(text).toContain('code: 4711')
    // The console fills the facts by itself.
    expect(read).toEqual(['test-data battery 97 %, load 31 %'])
    expect(latestFact(await refresh(), ups(), 'test-data')?.how).toBe('read-live')
  })

  test('a code that the card does not take is not done, and its words are given', async () => {
    await writeDown('1111')
    const { end } = await doIt('ups-code')
    expect(end).toMatchObject({
      state: 'stopped',
      problem: { what: '"Code of the unit" was not taken.', found: '"test data: battery 0 %, load 0 %"' },
    })
  })

  test('by lease: chosen, saved, read back after the restart and compared with the plan', async () => {
    await settle(stepOf('school').key, 'Reservation')
    await refresh()
    expect((await doIt('lease')).end).toMatchObject({ state: 'done', said: 'not saved yet' })
    expect((await doIt('services')).end).toMatchObject({ state: 'done', said: 'modbus on, not saved yet' })
    const check = () => app.api.post(`/api/jobs/${job.id}/walk/check`).send({ stepKey: stepOf('lease-read').key })
    // What it shows before its restart says nothing of afterwards.
    expect((await doIt('lease-read')).read).toContain('address 192.168.66.20')
    expect((await doIt('save')).end).toMatchObject({ state: 'done', said: 'restarting' })
    await app.api.post(`/api/jobs/${job.id}/walk/wait`).send({ stepKey: stepOf('restart').key })
    for (let k = 0; k < 100 && (await refresh()) && stepOf('restart').record?.state !== 'done'; k += 1) await pause(100)
    expect(stepOf('restart').record?.state).toBe('done')
    expect((await check()).body).toMatchObject({ verdict: 'not-conclusive', compared: 0 })
    const { read } = await doIt('lease-read')
    const now = ['address 10.20.40.61', 'mask 255.255.255.0', 'gateway 10.20.40.1', 'firmware 2.3', 'set-code 4711']
    expect(read).toEqual(now)
    expect((await check()).body).toMatchObject({ verdict: 'passed', compared: 3, of: 3 })
  })

  test('a console of another device, and a step that is not there, send nothing', async () => {
    const [drive] = job.devices.filter(({ tag }) => tag === 'PD-101')
    const elsewhere = steps.find((step) => step.deviceId === drive?.id && step.step.kind === 'set')
    const at = `http://127.0.0.1:${app.running.port}`
    expect((await doInMenu(at, job.id, query, elsewhere?.key ?? '')).end).toMatchObject({
      problem: { what: 'This step does nothing in a menu.' },
    })
    expect((await doInMenu(at, job.id, query, 'no such step')).end).toMatchObject({ state: 'stopped' })
  })

  test('over a serial port of this laptop it is the same: a plant, a lead in the port, the same menu', async () => {
    await writeDown('4711')
    await app.change(job.id, { op: 'set', table: 'job', id: job.id, version: job.version, fields: { mode: 'plant' } })
    await refresh()
    expect(job.mode).toBe('plant')
    const lead = await leadTo('UPS-401')
    try {
      const way = `via=${encodeURIComponent(`serial:${lead.port}:9600 8N1`)}&device=${ups()}`
      const { end, text, read } = await doIt('ups-code', way)
      expect(end).toMatchObject({ state: 'done', said: 'test data: battery 97 %, load 31 %', sent: 2, of: 2 })
      expect(text).toContain('code: 4711')
      expect(read).toEqual(['test-data battery 97 %, load 31 %'])
      // On the plant no stand-in is reached by its name.
      await expect(doIt('ups-code')).rejects.toThrow(/no serial socket of that name/)
    } finally {
      await lead.out()
    }
  })

  test('what was sent stands in the log, the password nowhere', async () => {
    const log = await app.api.get(`/api/jobs/${job.id}/log`)
    const text = JSON.stringify(log.body.entries)
    expect(text).toContain('UPS-401, in its menu: Code of the unit. choice: 2; code: 4711')
    const heads = (await app.api.get(`/api/jobs/${job.id}/keepsakes`)).body as { id: string; kind: string }[]
    const consoles = heads.filter(({ kind }) => kind === 'console')
    expect(consoles.length).toBeGreaterThan(3)
    for (const { id } of consoles)
      expect(JSON.stringify((await app.api.get(`/api/jobs/${job.id}/keepsakes/${id}`)).body)).not.toContain('hunter2')
    expect(text).not.toContain('hunter2')
  })
})
