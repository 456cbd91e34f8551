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

  test('a console that ends while its text cannot be kept', async () => {
    const before = (await app.api.get(`/api/jobs/${jobId}/keepsakes`)).body.length
    const web = new WebSocket(
      `ws://127.0.0.1:${app.running.port}/api/jobs/${jobId.replace(/^./, 'f').replace(/^ff/, 'ef')}/console?via=bench:UPS-401`,
      {
        origin: `http://127.0.0.1:${app.running.port}`,
      },
    )
    const told = await new Promise<string>((done) => {
      web.on('message', (data) => done(String(data)))
      web.on('error', (error) => done(error.message))
    })
    expect(told).toMatch(/did not open/)
    web.terminate()
    expect(await isAlive()).toBe(true)
    expect((await app.api.get(`/api/jobs/${jobId}/keepsakes`)).body.length).toBe(before)
  })
})
