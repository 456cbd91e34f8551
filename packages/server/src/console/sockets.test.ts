import { connect, type Socket } from 'node:net'
import { setTimeout as pause } from 'node:timers/promises'
import { WebSocket } from 'ws'
import { startTestApp, type TestApp } from '../fixtures'

let app: TestApp
let jobId: string
beforeAll(async () => {
  app = await startTestApp()
  jobId = (await app.job('First contact rehearsal')).id
})
afterAll(() => app.stop())

const isAlive = async () => (await app.api.get('/api/health')).status === 200

/** Sends raw bytes and gives what came back until the end, or for a moment. */
function raw(text: string, then: (socket: Socket) => void = () => undefined): Promise<string> {
  return new Promise((done) => {
    let heard = ''
    const socket = connect(app.running.port, '127.0.0.1', () => {
      socket.write(text)
      then(socket)
    })
    socket.on('data', (bytes) => (heard += bytes.toString('latin1')))
    socket.on('error', () => undefined)
    socket.on('close', () => done(heard))
    setTimeout(() => socket.destroy(), 600).unref()
  })
}

const upgrade = (path: string, headers: Readonly<Record<string, string>> = {}) => {
  const all = {
    Host: `127.0.0.1:${app.running.port}`,
    Origin: `http://127.0.0.1:${app.running.port}`,
    Connection: 'Upgrade',
    Upgrade: 'websocket',
    'Sec-WebSocket-Version': '13',
    'Sec-WebSocket-Key': 'dGhlIHNhbXBsZSBub25jZQ==',
    ...headers,
  }
  const lines = Object.entries(all).map(([name, text]) => `${name}: ${text}`)
  return `GET ${path} HTTP/1.1\r\n${lines.join('\r\n')}\r\n\r\n`
}
const path = (via = 'bench:UPS-401') => `/api/jobs/${jobId}/console?via=${encodeURIComponent(via)}`

describe('the socket of the console cannot end the server', () => {
  test.each<[string, () => string, RegExp]>([
    ['a path that is no URL', () => upgrade('//['), /^HTTP\/1\.1 400/],
    ['a path with a lone percent', () => upgrade('/api/jobs/%/console'), /^HTTP\/1\.1 404/],
    ['another path', () => upgrade('/api/elsewhere'), /^HTTP\/1\.1 404/],
    ['no key', () => upgrade(path(), { 'Sec-WebSocket-Key': '' }), /^HTTP\/1\.1 400/],
    ['another origin', () => upgrade(path(), { Origin: 'http://elsewhere.example' }), /^HTTP\/1\.1 403/],
    ['another host, and a path that is no URL', () => upgrade('//[', { Host: 'elsewhere.example' }), /^HTTP\/1\.1 403/],
  ])('%s is refused with a status', async (_what, request, answer) => {
    expect(await raw(request())).toMatch(answer)
    expect(await isAlive()).toBe(true)
  })

  test('an upgrade followed by a reset, at once and a moment later', async () => {
    await Promise.all(
      [0, 0, 1, 3, 10, 30].map((milliseconds) =>
        raw(upgrade(path()), (socket) => setTimeout(() => socket.resetAndDestroy(), milliseconds)),
      ),
    )
    await raw(upgrade('//['), (socket) => socket.resetAndDestroy())
    await pause(50)
    expect(await isAlive()).toBe(true)
  })

  test('a broken frame and a message over the limit end this console only', async () => {
    const broken = await raw(upgrade(path()), (socket) =>
      setTimeout(() => socket.write(Buffer.from([0xff, 0xff, 0xff, 0xff, 0xff])), 100),
    )
    expect(broken).toMatch(/^HTTP\/1\.1 101/)
    const web = new WebSocket(`ws://127.0.0.1:${app.running.port}${path()}`, {
      origin: `http://127.0.0.1:${app.running.port}`,
    })
    const ended = new Promise((done) => {
      web.on('close', done)
      web.on('error', done)
    })
    web.on('open', () => web.send('x'.repeat(200_000)))
    await ended
    expect(await isAlive()).toBe(true)
  })

  test('a flood of messages, and of consoles', async () => {
    const url = `ws://127.0.0.1:${app.running.port}${path()}`
    const open = () =>
      new Promise<WebSocket | undefined>((done) => {
        const web = new WebSocket(url, { origin: `http://127.0.0.1:${app.running.port}` })
        web.on('open', () => done(web))
        web.on('error', () => done(undefined))
      })
    const webs = await Promise.all(Array.from({ length: 40 }, open))
    const admitted = webs.filter((web) => web !== undefined)
    expect(admitted.length).toBeLessThanOrEqual(16)
    expect(admitted.length).toBeGreaterThan(0)
    for (const web of admitted)
      for (let k = 0; k < 200; k += 1)
        web.send(k % 3 === 0 ? 'no JSON' : JSON.stringify({ kind: 'type', text: 'x'.repeat(3_000) }))
    expect(await isAlive()).toBe(true)
    for (const web of admitted) web.terminate()
    await pause(100)
    expect(await isAlive()).toBe(true)
  })

  test('a console of a job that is not there opens nothing', async () => {
    const other = '0d9c1f0e-6a3b-4c1d-8e2f-1a2b3c4d5e6f'
    const web = new WebSocket(`ws://127.0.0.1:${app.running.port}/api/jobs/${other}/console?via=bench:UPS-401`, {
      origin: `http://127.0.0.1:${app.running.port}`,
    })
    const told = await new Promise<string>((done) => {
      web.on('message', (data) => done(String(data)))
      web.on('error', (error) => done(error.message))
    })
    expect(told).toMatch(/did not open/)
    web.terminate()
    expect(await isAlive()).toBe(true)
  })

  test('a console that ends while the disk is full: the text is not kept, it is said, and the server goes on', async () => {
    const { source } = app.running.store
    await app.api.post('/api/bench-fronts/UPS-401').send({ act: 'power', on: true })
    await app.api
      .put('/api/bench-laptop')
      .send({ addresses: [{ address: '10.20.40.5', prefix: 24 }], cable: 'switch', speed: 100 })
    await pause(1_800)
    const web = new WebSocket(`ws://127.0.0.1:${app.running.port}${path()}`, {
      origin: `http://127.0.0.1:${app.running.port}`,
    })
    const told: string[] = []
    web.on('message', (data) => told.push(String(data)))
    await new Promise((done) => web.on('open', done))
    for (let k = 0; k < 40; k += 1) {
      web.send(JSON.stringify({ kind: 'type', text: '\r' }))
      await pause(5)
    }
    await pause(100)
    expect(told.join('')).toContain('Network card')
    const before = (await app.api.get(`/api/jobs/${jobId}/keepsakes`)).body.length
    const [{ page_count: pages }] = (await source.query('PRAGMA page_count')) as [{ page_count: number }]
    const [{ freelist_count: free }] = (await source.query('PRAGMA freelist_count')) as [{ freelist_count: number }]
    await source.query(`PRAGMA max_page_count = ${pages}`)
    // Room that the last pages still have is used up first.
    for (let k = 0; k < 400 + free; k += 1) {
      const answer = await app.api
        .post(`/api/jobs/${jobId}/temporary`)
        .send({ what: `x ${k} ${'y'.repeat(180)}`, putBack: '' })
      if (answer.status === 507) break
    }
    await app.api.post('/api/bench-fronts/UPS-401').send({ act: 'power', on: false })
    web.close()
    await pause(200)
    expect(await isAlive()).toBe(true)
    await source.query('PRAGMA max_page_count = 1073741823')
    expect((await app.api.get(`/api/jobs/${jobId}/keepsakes`)).body.length).toBe(before)
    expect((await app.api.post(`/api/jobs/${jobId}/temporary`).send({ what: 'room again', putBack: '' })).status).toBe(
      201,
    )
  })
})
