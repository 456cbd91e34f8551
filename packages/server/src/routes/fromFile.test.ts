import { createHash } from 'node:crypto'
import { readinessOf } from '@calm/core/handOver'
import { blankWalk } from '@calm/core/procedure'
import type { JobFile } from '@calm/contract/jobFile'
import type { Job } from '@calm/core/job'
import { startTestApp, type TestApp } from '../fixtures'

let app: TestApp
beforeAll(async () => {
  app = await startTestApp()
})
afterAll(() => app.stop())

/** A job begun here, with one pair of which something was seen, a rung that does not apply and a finding let stand. */
async function ownJob(): Promise<Job> {
  const { body } = await app.api.post('/api/jobs').send({ name: 'Pump house', place: '', mode: 'bench' })
  const file = (await app.api.get(`/api/jobs/${(await app.job()).id}/export`)).body as JobFile
  const handshakes = file.job.handshakes.map((each) => ({ ...each, decisions: [] }))
  const bare = { ...file, job: { ...file.job, name: body.name, evidence: [], acceptances: [], handshakes } }
  const job = (await taken(bare)).body as Job
  const handshake = job.handshakes[0]!
  const evidence = { rung: 'safe', verdict: 'proven', how: 'seen', value: 'tagged at Q14' }
  expect((await app.api.post(`/api/handshakes/${handshake.id}/evidence`).send(evidence)).status).toBeLessThan(300)
  const decision = { rung: 'writing', state: 'not-apply', reason: 'it is only read' }
  expect((await app.api.post(`/api/handshakes/${handshake.id}/decisions`).send(decision)).status).toBeLessThan(300)
  return (await app.api.get(`/api/jobs/${job.id}`)).body as Job
}

const fileOf = async (job: Job) => (await app.api.get(`/api/jobs/${job.id}/export`)).body as JobFile
const taken = (file: object) =>
  app.api.post('/api/jobs/import').set('content-type', 'text/plain').send(JSON.stringify(file))
const fromFile = async (id: string) => (await app.api.get(`/api/jobs/${id}/from-file`)).body
const takeOver = (id: string) => app.api.post(`/api/jobs/${id}/from-file/take-over`).send({})
const jobOf = async (id: string) => (await app.api.get(`/api/jobs/${id}`)).body as Job
const provenIn = (job: Job) => readinessOf(job, blankWalk).rungs.reduce((sum, { counts }) => sum + counts.proven, 0)

describe('what comes with a job file', () => {
  test('proves nothing until a lead takes it over; then it counts as what it was, once', async () => {
    const own = await ownJob()
    const { body: came } = await taken(await fileOf(own))
    expect(came.evidence).toEqual([])
    expect(came.handshakes[0].decisions).toEqual([])
    expect(provenIn(came)).toBe(0)
    expect(await fromFile(came.id)).toMatchObject({ evidenceCount: 1, decisionCount: 1, broken: null, takenOver: null })
    const after = await takeOver(came.id)
    expect([after.status, after.body.takenOver]).toEqual([201, { who: expect.any(String), at: expect.any(Number) }])
    const now = await jobOf(came.id)
    expect(now.evidence).toMatchObject([{ rung: 'safe', who: own.evidence[0]?.who, at: own.evidence[0]?.at }])
    // It is about the same device as before, by its new id.
    const tagOf = (of: Job) => of.devices.find(({ id }) => id === of.evidence[0]?.subject.id)?.tag
    expect(tagOf(now)).toBe(tagOf(own))
    expect(now.handshakes[0]?.decisions).toMatchObject([{ rung: 'writing', reason: 'it is only read' }])
    expect(provenIn(now)).toBe(1)
    expect((await takeOver(came.id)).status).toBe(422)
    expect((await jobOf(came.id)).evidence).toHaveLength(1)
    // It goes on: the log of this job tells whose it was.
    const { body: third } = await taken(await fileOf(now))
    expect(await fromFile(third.id)).toMatchObject({ evidenceCount: 1, broken: null })
  })

  const sealed = (file: JobFile): JobFile => {
    const proofs = {
      evidence: file.job.evidence,
      acceptances: file.job.acceptances,
      decisions: file.job.handshakes.flatMap(({ id, decisions }) =>
        decisions.map((row) => ({ ...row, handshakeId: id })),
      ),
    }
    const text = `${file.log?.at(-1)?.hash ?? ''} ${JSON.stringify(proofs)}`
    return { ...file, seal: createHash('sha256').update(text).digest('hex') }
  }
  const signed = (file: JobFile): JobFile => {
    const [seen] = file.job.evidence
    const forged = {
      ...seen!,
      id: '1d9c1f0e-6a3b-4c1d-8e2f-1a2b3c4d5e6f',
      rung: 'handed-over' as const,
      at: 1 as never,
    }
    return { ...file, job: { ...file.job, evidence: [...file.job.evidence, forged] } }
  }

  test.each<[string, (file: JobFile) => object, RegExp]>([
    ['a sign-off written into it', signed, /not what was sealed/],
    ['a sign-off written into it, sealed again', (file) => sealed(signed(file)), /Its log does not tell of 1 of the 3/],
    ['without its log', ({ log: _log, seal: _seal, ...file }) => file, /has no log/],
    ['without its seal', ({ seal: _seal, ...file }) => file, /has no log/],
    [
      'with an entry of its log changed',
      (file) => ({ ...file, log: file.log?.map((each, k) => (k === 1 ? { ...each, who: 'Somebody' } : each)) }),
      /Entry 2 of its log was changed/,
    ],
    [
      'with the log of another job',
      (file) => ({
        ...file,
        log: file.log?.map((each) => ({ ...each, jobId: '1d9c1f0e-6a3b-4c1d-8e2f-1a2b3c4d5e6f' })),
      }),
      /Entry 1 of its log was changed/,
    ],
    ['with an entry left out', (file) => ({ ...file, log: file.log?.slice(1) }), /Entry 1 of its log was changed/],
  ])('%s it cannot be taken over, and nothing counts', async (_what, change, broken) => {
    const { body: came, status } = await taken(change(await fileOf(await ownJob())))
    expect(status).toBe(201)
    expect((await fromFile(came.id)).broken).toMatch(broken)
    const refused = await takeOver(came.id)
    expect(refused.status).toBe(422)
    expect(refused.body.problems[0].what).toMatch(broken)
    expect((await jobOf(came.id)).evidence).toEqual([])
  })

  test('a job that was begun here, or came without evidence, has nothing to take over', async () => {
    const { body } = await app.api.post('/api/jobs').send({ name: 'New', place: '', mode: 'bench' })
    expect(await fromFile(body.id)).toBeNull()
    expect((await takeOver(body.id)).status).toBe(422)
    expect((await taken(await fileOf(body))).status).toBe(201)
  })
})
