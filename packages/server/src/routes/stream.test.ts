import { get, request, type IncomingMessage } from 'node:http'
import { startTestApp, type TestApp } from '../fixtures'

let app: TestApp
beforeAll(async () => {
  app = await startTestApp({ demo: undefined })
})
afterAll(() => app.stop())

const begin = async (): Promise<{ id: string; version: number }> =>
  (await app.api.post('/api/jobs').send({ name: 'Stream', place: '', mode: 'bench' })).body

/** The first event of a stream. */
function hello(jobId: string): Promise<{ readonly revision: number }> {
  return new Promise((done, fail) => {
    const asking = get(`http://127.0.0.1:${app.running.port}/api/jobs/${jobId}/stream`, (response: IncomingMessage) => {
      response.setEncoding('utf8')
      response.on('error', () => undefined)
      response.on('data', (text: string) => {
        const content = /^event: hello\ndata: (.*)$/m.exec(text)?.[1]
        if (!content) return
        asking.destroy()
        done(JSON.parse(content))
      })
    })
    asking.on('error', fail)
  })
}

describe('a page that listens', () => {
  test('is told how far the job is, so that it knows when it missed something', async () => {
    const job = await begin()
    const loaded = await app.api.get(`/api/jobs/${job.id}`)
    const known = Number(loaded.headers['x-revision'])
    expect((await hello(job.id)).revision).toBe(known)
    // Somebody changes the job between its loading and the opening of the stream.
    const { id, version } = job
    await app.change(id, { op: 'set', table: 'job', id, version, fields: { place: 'x' } }).expect(204)
    expect((await hello(job.id)).revision).toBeGreaterThan(known)
    const again = await app.api.get(`/api/jobs/${job.id}/walk`)
    expect(Number(again.headers['x-revision'])).toBe((await hello(job.id)).revision)
  })

  test('HEAD of a stream ends', async () => {
    const { id } = await begin()
    const ended = await new Promise<number | undefined>((done, fail) => {
      const asking = request(
        { port: app.running.port, host: '127.0.0.1', method: 'HEAD', path: `/api/jobs/${id}/stream` },
        (response) => {
          response.resume()
          response.on('end', () => done(response.statusCode))
        },
      )
      asking.on('error', fail)
      asking.setTimeout(2_000, () => fail(new Error('it does not end')))
      asking.end()
    })
    expect(ended).toBe(200)
  })
})
