import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import Database from 'libsql'
import { jobFileOf } from '@calm/contract/jobFile'
import type { Job } from '@calm/core/job'
import { seeded } from '@calm/core/sequence/fixtures'
import { heronMill } from '../demo'
import { startTestApp, type TestApp } from '../fixtures'
import { goodBodies } from './goodBodies'

/** The same requests every time. */
const SEED = 20_261_127
const ROUNDS = 30
/** Routes that keep a connection open, or look at many addresses: they have tests of their own. */
const APART = [
  '/jobs/:jobId/stream',
  '/jobs/:jobId/sweep',
  '/jobs/:jobId/listening',
  '/jobs/:jobId/units',
  '/bench-deliver',
]

const dataDir = mkdtempSync(join(tmpdir(), 'calm-fuzz-'))
let app: TestApp
let job: Job
let watcher: InstanceType<typeof Database>
beforeAll(async () => {
  app = await startTestApp({ dataDir, demo: undefined })
  const file = JSON.stringify(jobFileOf(heronMill(1_764_000_000_000), '2026-01-01T00:00:00.000Z'))
  job = (await app.api.post('/api/jobs/import').set('content-type', 'text/plain').send(file)).body
  watcher = new Database(join(dataDir, 'calm-handshake.sqlite'))
})
afterAll(async () => {
  watcher.close()
  await app.stop()
  rmSync(dataDir, { recursive: true })
})

/** Changes whenever anything is committed by somebody else: how a trace shows. Source: SQLite, PRAGMA data_version */
const committed = (): number =>
  (watcher.prepare('PRAGMA data_version').all() as { data_version: number }[])[0]?.data_version ?? 0

const random = seeded(SEED)
const pick = <T>(of: readonly T[]): T => of[Math.floor(random() * of.length)] as T
const nested = (depth: number) => '['.repeat(depth) + ']'.repeat(depth)

function idsOf(): readonly string[] {
  const [device] = job.devices
  const [handshake] = job.handshakes
  return [
    job.id,
    device?.id,
    device?.ports[0]?.id,
    handshake?.id,
    handshake?.points[0]?.id,
    job.networks[0]?.id,
    job.forced[0]?.id,
  ].flatMap((id) => id ?? [])
}

const oddTexts = [
  '',
  ' ',
  '\u0000',
  'a\u0000b',
  '\ud800',
  '\u202egnp',
  'é ü 漢字 🔧',
  "'; DROP TABLE job; --",
  '=1+1',
  '../../etc/passwd',
  '%00',
  '%2e%2e',
  '__proto__',
  'constructor',
  'x'.repeat(5_000),
  '\r\nSet-Cookie: a=b',
  '<script>',
  '1e999',
  'NaN',
  '-0',
]
const numbers = [0, -1, 1, 1.5, 2 ** 31, 2 ** 53, -(2 ** 53), 1e308, 5e-324, 256, 65_536, 70_000]

function value(depth = 0): unknown {
  const kind = random()
  if (kind < 0.3) return pick(oddTexts)
  if (kind < 0.5) return pick(numbers)
  if (kind < 0.62) return pick(idsOf())
  if (kind < 0.74) return pick([null, true, false])
  if (depth > 3) return null
  if (kind < 0.86) return Array.from({ length: Math.floor(random() * 4) }, () => value(depth + 1))
  return body(depth + 1)
}

/** Names that the API knows, so that what is sent comes further than the first check. */
const NAMES =
  'name place mode version tag what kind behindId unitId asFound note port cidr gateway vlan dhcp reserved controllerId deviceId rung verdict how value pointId deviceReading controllerReading controllerTyped shownTyped typedAt state reason where text notation origin quantity unit decimals served shownAt reference tolerance changes op table id fields order settings stepKey stepKeys seen setting standing putBack facts address cidr first last when notes passcode act on seconds cable speed addresses silent slow __proto__ constructor toString'.split(
    ' ',
  )

function body(depth = 0): Record<string, unknown> {
  const made: Record<string, unknown> = {}
  for (let k = 0; k < 1 + Math.floor(random() * 7); k += 1)
    Object.defineProperty(made, pick(NAMES), { value: value(depth), enumerable: true, configurable: true })
  return made
}

/** A right body with one thing in it made strange. */
function broken(good: unknown): unknown {
  const copy = JSON.parse(JSON.stringify(good)) as unknown
  const places: (readonly [Record<string, unknown>, string])[] = []
  const visit = (inner: unknown) => {
    if (typeof inner !== 'object' || inner === null) return
    for (const key of Object.keys(inner)) {
      places.push([inner as Record<string, unknown>, key])
      visit((inner as Record<string, unknown>)[key])
    }
  }
  visit(copy)
  const [holder, key] = places.length > 0 ? pick(places) : [{}, 'x']
  if (random() < 0.2) delete holder[key]
  else if (random() < 0.75) holder[key] = value()
  return copy
}

/** A body as it goes over the wire. */
function sent(round: number, good: readonly unknown[]): { readonly type: string; readonly text: string } {
  const json = 'application/json'
  switch (round) {
    case 0:
      return { type: json, text: '' }
    case 1:
      return { type: json, text: pick(['null', '[]', '7', '"x"', '{', '{"a":', '\u0000', 'undefined']) }
    case 2:
      return { type: json, text: nested(20_000) }
    case 3:
      return { type: json, text: `{"fields":${nested(60)},"changes":${nested(60)},"facts":${nested(60)}}` }
    case 4:
      return {
        type: pick(['text/plain', 'text/html', 'application/xml', 'multipart/form-data', 'x/y; charset=nope']),
        text: 'a=b',
      }
    case 5:
      return { type: json, text: JSON.stringify({ name: 'x'.repeat(250_000) }) }
    case 6:
      return {
        type: json,
        text: `{"__proto__":{"isAdmin":true},"version":1,"changes":[{"op":"set","table":"job","id":"${job.id}","version":1,"fields":{"__proto__":1}}]}`,
      }
    default:
      if (good.length > 0 && round > 8) return { type: json, text: JSON.stringify(broken(good[round % good.length])) }
      return { type: json, text: JSON.stringify(body()) }
  }
}

const part = (): string =>
  encodeURIComponent(
    pick([
      ...idsOf(),
      ...idsOf(),
      'nothing',
      '00000000-0000-4000-8000-000000000000',
      '..',
      "'",
      'é',
      '__proto__',
      'x'.repeat(2_000),
    ]),
  )

/** An id of the kind that the path asks for, or anything. */
function partFor(path: string, name: string): string {
  if (random() < 0.3) return part()
  const [device] = job.devices
  const [handshake] = job.handshakes
  const byTable: Readonly<Record<string, string | undefined>> = {
    handshakes: handshake?.id,
    points: handshake?.points[0]?.id,
    devices: device?.id,
    ports: device?.ports[0]?.id,
    networks: job.networks[0]?.id,
    forced: job.forced[0]?.id,
  }
  if (name === ':termId') return pick(['count', 'scale', 'address', 'nothing'])
  if (name === ':end') return pick(['controller', 'device', 'middle'])
  if (name === ':tag') return pick(['EM-501', 'PD-101', 'nothing'])
  if (name === ':role') return pick(['lead', 'king'])
  return byTable[path.split('/')[1] ?? ''] ?? part()
}

test('every route, with whatever may be sent: no 500, no trace of what is refused, no path of this laptop', async () => {
  const routes = app.running.routes.filter(({ path }) => !APART.includes(path))
  expect(routes.length).toBeGreaterThan(50)
  const good = goodBodies(job)
  const known = new Set(routes.map((route) => route.path))
  expect(Object.keys(good).filter((path) => !known.has(path))).toEqual([])
  const counts: Record<string, number> = {}
  const wrong: string[] = []
  for (const { method, path } of routes) {
    for (let round = 0; round < ROUNDS; round += 1) {
      const url = `/api${path.replace(/:\w+/g, (name) => (name === ':jobId' && random() < 0.7 ? job.id : partFor(path, name)))}${pick(['', '', '?live=x', '?view=%00', '?a[b]=c'])}`
      const { type, text } = sent(round, good[path] ?? [])
      const before = committed()
      const response = await fetch(`http://127.0.0.1:${app.running.port}${url}`, {
        method,
        ...(method === 'GET' || method === 'HEAD' ? {} : { headers: { 'content-type': type }, body: text }),
      })
      const answer = await response.text()
      counts[response.status] = (counts[response.status] ?? 0) + 1
      const say = (what: string) => wrong.push(`${method} ${url.slice(0, 120)} ${text.slice(0, 120)}: ${what}`)
      if (response.status >= 500) say(`${response.status} ${answer.slice(0, 200)}`)
      if (response.status >= 400 && committed() !== before) say(`left a trace with ${response.status}`)
      if (/(\/(work|tmp|home|root|usr|var)\/|[A-Z]:\\\\)/.test(answer)) say(`names a path: ${answer.slice(0, 200)}`)
      if (response.status >= 400 && !/"problems":\[\{"what":"./.test(answer))
        say(`${response.status} without a sentence: ${answer.slice(0, 120)}`)
    }
  }
  const total = Object.values(counts).reduce((sum, count) => sum + count, 0)
  console.info(`API fuzz: ${total} requests to ${routes.length} routes, answers ${JSON.stringify(counts)}`)
  expect(wrong).toEqual([])
  expect(total).toBeGreaterThan(700)
  // The server is whole: its log, its job, its answer.
  expect((await app.api.get(`/api/jobs/${job.id}/log`)).body).toMatchObject({ whole: true })
  // Alone it takes some seconds; beside other work of this machine it may take minutes, and is right all the same.
}, 300_000)
