import { portOf } from '@calm/core/procedure'
import { evidenceAbout, type Job } from '@calm/core/job'
import { startTestApp, type TestApp } from '../fixtures/testApp'
import { addDeviceEvidence } from '../store/record'
import { askOnPlan } from './askOnPlan'

jest.setTimeout(60_000)

let app: TestApp
let job: Job
beforeEach(async () => {
  app = await startTestApp()
  job = await app.job()
})
afterEach(() => app.stop())

const meterOf = (of: Job) => {
  const device = of.devices.find(({ tag }) => tag === 'EM-501')
  const port = device && portOf(device)
  if (!device || !port) throw new Error('no meter')
  return { device, port }
}
const reachedOf = (of: Job) => evidenceAbout(of, meterOf(of).device.id).filter(({ rung }) => rung === 'reached')

/** Asks the meter where it is planned, and writes that it was reached; `meanwhile` is done while it is asked. */
const ask = (meanwhile: () => Promise<unknown>) =>
  askOnPlan(app.running.store, {
    who: 'R. Osei',
    jobId: job.id,
    plan: ({ job: now }) => meterOf(now).port.address ?? '',
    ask: async ({ job: now }) => {
      await meanwhile()
      return meterOf(now).port.address
    },
    write: (tx, { job: now }, _answer, witness) =>
      addDeviceEvidence(tx, now.id, meterOf(now).device.id, {
        rung: 'reached',
        verdict: 'proven',
        how: 'read-live',
        witness,
        facts: [],
      }),
  })
const set = (table: string, row: { id: string; version: number }, fields: object) =>
  app.change(job.id, { op: 'set', table, id: row.id, version: row.version, fields }).expect(204)

test('a plan that stays as it was is written on', async () => {
  await ask(() => Promise.resolve())
  expect(reachedOf(await app.job())).toHaveLength(1)
})

test('the address changed while it was asked: nothing is written, and it is said what was asked', async () => {
  const { port } = meterOf(job)
  const asked = ask(() => set('port', port, { address: '10.20.40.59' }))
  await expect(asked).rejects.toMatchObject({
    problems: [{ expected: 'bench: 10.20.40.59', found: 'bench: 10.20.40.50' }],
  })
  expect(reachedOf(await app.job())).toEqual([])
})

test('what the plan does not rest on may change meanwhile', async () => {
  await ask(() => set('device', meterOf(job).device, { what: 'Another word' }))
  expect(reachedOf(await app.job())).toHaveLength(1)
})

test('plant instead of bench meanwhile: nothing is written', async () => {
  await expect(ask(() => set('job', job, { mode: 'plant' }))).rejects.toMatchObject({ status: 422 })
  expect(reachedOf(await app.job())).toEqual([])
})
