import { spawn, type ChildProcess } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { createServer, connect } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { expect, test } from './test'
import { freePort } from './ports'

const root = fileURLToPath(new URL('../..', import.meta.url))

interface Ended {
  readonly code: number | null
  readonly text: string
}

/** Runs a command of the project and gathers what it says. */
function run(args: readonly string[]): {
  readonly child: ChildProcess
  readonly says: (text: RegExp) => Promise<string>
  readonly ended: Promise<Ended>
} {
  const child = spawn(process.execPath, args, { cwd: root, env: { ...process.env, LOG_LEVEL: 'warn' } })
  let text = ''
  const listeners = new Set<() => void>()
  for (const stream of [child.stdout, child.stderr]) {
    stream?.on('data', (part) => {
      text += String(part)
      for (const listener of listeners) listener()
    })
  }
  const ended = new Promise<Ended>((done) => child.once('exit', (code) => setTimeout(() => done({ code, text }), 50)))
  const says = (wanted: RegExp) =>
    new Promise<string>((done, fail) => {
      const look = () => {
        if (!wanted.test(text)) return
        listeners.delete(look)
        done(text)
      }
      listeners.add(look)
      look()
      void ended.then(() => (wanted.test(text) ? done(text) : fail(new Error(`ended without ${wanted}: ${text}`))))
    })
  return { child, says, ended }
}

const isOpen = (host: string, port: number) =>
  new Promise<boolean>((done) => {
    const socket = connect(port, host)
    socket.once('connect', () => (socket.destroy(), done(true)))
    socket.once('error', () => done(false))
  })

let dataDir: string
test.beforeEach(() => {
  dataDir = mkdtempSync(join(tmpdir(), 'calm-commands-'))
})
test.afterEach(() => rmSync(dataDir, { recursive: true, force: true }))

for (const signal of ['SIGTERM', 'SIGINT'] as const) {
  test(`the demo prints its address, serves, and on ${signal} leaves nothing running`, async () => {
    const port = await freePort()
    const benchPort = await freePort()
    const demo = run(['tools/demo.mjs', '--data', dataDir, '--port', String(port), '--bench-port', String(benchPort)])
    await demo.says(new RegExp(`Calm Handshake is at http://127.0.0.1:${port}/`))
    expect(await (await fetch(`http://127.0.0.1:${port}/api/health`)).json()).toMatchObject({ ok: true })
    expect(await (await fetch(`http://127.0.0.1:${port}/`)).text()).toContain('<div id="root">')
    const bench = (await (await fetch(`http://127.0.0.1:${port}/api/bench`)).json()) as { servedAt: string }[]
    const [host = '', served = ''] = (bench[0]?.servedAt ?? '').split(':')
    // Beside another bench on this machine it takes the next block of loopback addresses.
    expect(host).toMatch(/^127\.(2\d|3\d)\.40\./)
    expect(await isOpen(host, Number(served))).toBe(true)
    demo.child.kill(signal)
    expect((await demo.ended).code).toBe(0)
    expect(await isOpen('127.0.0.1', port)).toBe(false)
    expect(await isOpen(host, Number(served))).toBe(false)
  })
}

test('--fresh puts the sample jobs back; without it what was done stays', async () => {
  const port = await freePort()
  const api = `http://127.0.0.1:${port}/api`
  const names = async () => ((await (await fetch(`${api}/jobs`)).json()) as { name: string }[]).map((job) => job.name)
  const once = async (extra: readonly string[], work: () => Promise<void>) => {
    const demo = run(['tools/demo.mjs', '--data', dataDir, '--port', String(port), '--bench-port', '0', ...extra])
    await demo.says(/Calm Handshake is at/)
    await work()
    demo.child.kill('SIGTERM')
    await demo.ended
  }
  await once([], async () => {
    const body = JSON.stringify({ name: 'Mine', place: '', mode: 'bench' })
    await fetch(`${api}/jobs`, { method: 'POST', headers: { 'content-type': 'application/json' }, body })
  })
  await once([], async () => expect(await names()).toContain('Mine'))
  await once(['--fresh'], async () =>
    expect(await names()).toEqual([
      'Heron Mill hatchery',
      'Weir Lane lift station',
      'Three Rivers works',
      'Second panel',
      'First contact rehearsal',
    ]),
  )
})

test('npm start begins with no job in the folder that was named', async () => {
  const port = await freePort()
  const started = run(['tools/start.mjs', '--data', dataDir, '--port', String(port), '--bench-port', '0'])
  await started.says(/Calm Handshake is at/)
  expect(await (await fetch(`http://127.0.0.1:${port}/api/jobs`)).json()).toEqual([])
  started.child.kill('SIGTERM')
  expect((await started.ended).code).toBe(0)
})

test('what cannot be is said in a sentence, with a code that is not zero', async () => {
  const taken = createServer()
  await new Promise<void>((done) => taken.listen(0, '127.0.0.1', done))
  const address = taken.address()
  const port = typeof address === 'object' && address ? address.port : 0
  const cases: readonly (readonly [readonly string[], RegExp])[] = [
    [['--data', dataDir, '--port', String(port)], new RegExp(`Port ${port} is in use`)],
    [['--data', '/dev/null/x', '--port', '0'], /Cannot write to the data folder \/dev\/null\/x/],
    [['--data', dataDir, '--port', '70000'], /--port 70000 is not a port/],
    [['--data', dataDir, '--colour', 'red'], /colour/],
    [['--data', dataDir, '--host', '127.0.0.2'], /Set a passcode first/],
    [['--data', dataDir, '--set-passcode', 'king'], /There is no role "king"/],
  ]
  for (const [args, sentence] of cases) {
    const { code, text } = await run(['tools/start.mjs', '--bench-port', '0', ...args]).ended
    expect(text).toMatch(sentence)
    expect(code).toBe(1)
    // A sentence, not the insides of the program.
    expect(text).not.toMatch(/\n\s+at /)
  }
  await new Promise<void>((done) => taken.close(() => done()))
})

test('a passcode that is typed at a terminal is not shown there', async () => {
  // Python's pty module is the terminal: what it shows is all that somebody at the screen sees.
  const program = `
import os, pty, sys, time
pid, fd = pty.fork()
if pid == 0:
    os.execvp(sys.argv[1], sys.argv[1:])
shown = b''
def read_until(mark):
    global shown
    while mark not in shown:
        try:
            part = os.read(fd, 1024)
        except OSError:
            break
        if not part: break
        shown += part
read_until(b'characters: ')
os.write(fd, b'hands on 22\\r')
read_until(b'again: ')
os.write(fd, b'hands on 22\\r')
read_until(b'is set.')
sys.stdout.write(shown.decode())
`
  const server = join(root, 'dist', 'server', 'main.mjs')
  const child = spawn('python3', ['-c', program, process.execPath, server, '--data', dataDir, '--set-passcode', 'lead'])
  let shown = ''
  child.stdout.on('data', (part) => (shown += String(part)))
  await new Promise((done) => child.once('exit', done))
  expect(shown).toContain('Passcode for lead is set.')
  expect(shown).not.toContain('hands')
})

test('an old Node.js is told which one is needed', async () => {
  const old =
    'data:text/javascript,Object.defineProperty(process,"versions",{value:{...process.versions,node:"18.12.0"}})'
  const { code, text } = await run(['--import', old, 'tools/demo.mjs']).ended
  expect(text).toContain('This needs Node.js 20.19 or newer; here is 18.12.0.')
  expect(code).toBe(1)
})
