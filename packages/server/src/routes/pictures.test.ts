import type { Picture, PictureComparison } from '@calm/core/procedure'
import { startTestApp, type TestApp } from '../fixtures'

jest.setTimeout(60_000)

let app: TestApp
beforeAll(async () => {
  app = await startTestApp()
  await app.api
    .put('/api/bench-laptop')
    .send({ addresses: [{ address: '10.20.40.5', prefix: 24 }], cable: 'switch', speed: 20 })
})
afterAll(() => app.stop())

interface Taken {
  readonly picture: Picture
  readonly comparison: PictureComparison | null
}
const take = async (jobId: string, when: 'before' | 'after'): Promise<Taken> => {
  const answer = await app.api.post(`/api/jobs/${jobId}/pictures`).send({ when, notes: [] })
  expect(answer.status).toBeLessThan(300)
  return answer.body as Taken
}

test('a picture holds the planned values of devices that are at their place, and says why of the others', async () => {
  const job = await app.job('Heron Mill hatchery')
  const { picture } = await take(job.id, 'before')
  const values = picture.values ?? []
  const planned = job.handshakes.reduce((sum, handshake) => sum + handshake.points.length, 0)
  expect(values).toHaveLength(planned)
  const read = values.filter(({ value }) => value !== null)
  expect(read.length).toBeGreaterThan(0)
  for (const each of read) expect(each.text).toMatch(/^-?[\d.]+/)
  // Nobody else's value stands for a device that is somewhere else.
  for (const each of values.filter(({ unasked }) => unasked)) {
    expect(each.value).toBeNull()
    expect(each.text).not.toBe('')
  }
  const [kept] = (await app.api.get(`/api/jobs/${job.id}/keepsakes`)).body as { title: string }[]
  expect(kept?.title).toContain(`${read.length} of ${planned} values`)

  // A device whose answers are refused afterwards: its value is gone, and that is said; who answers has not changed.
  const [first] = read
  const quiet = { silent: false, slow: false, wrongUnit: false, wordsSwapped: false, mapShifted: false }
  await app.api.put(`/api/bench/${first?.device ?? ''}`).send({ ...quiet, exception2: true })
  const { comparison } = await take(job.id, 'after')
  const gone = comparison?.differences.filter(({ tag }) => tag === `${first?.device ?? ''}, ${first?.point ?? ''}`)
  expect(gone).toMatchObject([{ kind: 'new-fault' }])
  expect(gone?.[0]?.say).toContain(`Was ${first?.text ?? ''}, gives no value now: It answers exception 2`)

  // Silent altogether: said at once for each of its values, without asking for them one by one.
  await app.api.put(`/api/bench/${first?.device ?? ''}`).send({ ...quiet, exception2: false, silent: true })
  const after = await take(job.id, 'after')
  const lost = after.picture.values?.filter(({ device }) => device === first?.device)
  expect(lost?.length).toBeGreaterThan(0)
  for (const each of lost ?? []) expect(each.value).toBeNull()
})
