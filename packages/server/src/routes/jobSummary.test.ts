import { startTestApp, type TestApp } from '../fixtures'
import { jobSummaries } from './jobSummary'

let app: TestApp
beforeAll(async () => {
  app = await startTestApp()
})
afterAll(() => app.stop())
afterEach(() => jest.restoreAllMocks())

test('a list of jobs lets everything else have its turn between two ladders', async () => {
  const job = await app.job()
  await jobSummaries(app.running.store)
  await app.change(job.id, { op: 'set', table: 'job', id: job.id, version: job.version, fields: { place: 'hall 2' } })
  // Each look at the clock is a stretch later: whoever breathes at all breathes each time.
  let now = performance.now()
  jest.spyOn(performance, 'now').mockImplementation(() => (now += 20))
  let turns = 0
  let isOver = false
  const count = () => {
    turns += 1
    if (!isOver) setImmediate(count)
  }
  setImmediate(count)
  const summaries = await jobSummaries(app.running.store)
  isOver = true
  expect(summaries.find(({ id }) => id === job.id)).toMatchObject({ place: 'hall 2', handshakeCount: 8 })
  expect(turns).toBeGreaterThanOrEqual(8)
})
