import { jobFileOf, readJobFile, type JobFile } from '@calm/contract/jobFile'
import { seeded } from '@calm/core/sequence/fixtures'
import { heronMill } from '../demo'
import { startTestApp, type TestApp } from '../fixtures'

const SEED = 9
const MUTATIONS = 500

let app: TestApp
beforeAll(async () => {
  app = await startTestApp({ demo: undefined })
})
afterAll(() => app.stop())

const random = seeded(SEED)
const pick = <T>(of: readonly T[]): T => of[Math.floor(random() * of.length)] as T

type Json = Record<string, unknown> | unknown[]
interface Place {
  readonly holder: Json
  readonly key: string | number
}

function places(value: unknown, found: Place[] = []): readonly Place[] {
  if (typeof value !== 'object' || value === null) return found
  for (const key of Object.keys(value)) {
    found.push({ holder: value as Json, key: Array.isArray(value) ? Number(key) : key })
    places((value as Record<string, unknown>)[key], found)
  }
  return found
}

const at = ({ holder, key }: Place): unknown => (holder as Record<string | number, unknown>)[key]
const put = ({ holder, key }: Place, value: unknown) => {
  Object.defineProperty(holder, key, { value, enumerable: true, configurable: true, writable: true })
}

const UUID = /^[0-9a-f]{8}-/
const strange: readonly unknown[] = [
  null,
  true,
  0,
  -1,
  1.5,
  1e308,
  2 ** 53,
  8.64e15 + 1,
  253_402_300_800_000,
  '',
  ' ',
  'x',
  'x'.repeat(10_000),
  'a\u0000b',
  '\ud800',
  'é漢🔧',
  [],
  {},
  [[]],
  { a: 1 },
  '10.20.40.999',
  '2026-02-31',
  '=1+1',
  '__proto__',
]

/** One thing changed, as a hand, a bug or somebody ill-meaning would change it. */
function mutate(file: JobFile): string {
  const all = places(file)
  const ids = all.filter((place) => typeof at(place) === 'string' && UUID.test(String(at(place))))
  const place = pick(all)
  const where = String(place.key)
  switch (Math.floor(random() * 9)) {
    case 0:
      put(place, pick(strange))
      return `${where} made strange`
    case 1:
      delete (place.holder as Record<string | number, unknown>)[place.key]
      if (Array.isArray(place.holder)) place.holder.splice(0, place.holder.length, ...place.holder.filter(() => true))
      return `${where} taken away`
    case 2: {
      const list = pick(all.map(at).filter((value): value is unknown[] => Array.isArray(value) && value.length > 0))
      list.push(JSON.parse(JSON.stringify(pick(list))))
      return 'a row twice'
    }
    case 3:
      put(pick(ids), at(pick(ids)))
      return 'an id of another row'
    case 4: {
      const one = pick(ids)
      const id = String(at(one))
      put(one, pick([id.toUpperCase(), `{${id}}`, id.replaceAll('-', ''), id.slice(1), ` ${id}`]))
      return 'an id written otherwise'
    }
    case 5: {
      const other = pick(all)
      const [a, b] = [at(place), at(other)]
      put(place, b === undefined ? null : JSON.parse(JSON.stringify(b)))
      put(other, a === undefined ? null : JSON.parse(JSON.stringify(a)))
      return `${where} and ${String(other.key)} exchanged`
    }
    case 6: {
      const numbers = all.filter((each) => typeof at(each) === 'number')
      put(pick(numbers), pick([0, -1, 0.5, 1e21, 8.64e15 + 1, 4_294_967_296, 65_536, 248]))
      return 'a number'
    }
    case 7: {
      const texts = all.filter((each) => typeof at(each) === 'string')
      put(pick(texts), pick(['a\u0000b', '\ud800x', 'x'.repeat(700), '', 'two\nlines', 'é漢🔧', ' padded ']))
      return 'a text'
    }
    default:
      if (Array.isArray(place.holder)) return 'nothing'
      put({ holder: place.holder, key: pick(['__proto__', 'colour', 'constructor']) }, pick(strange))
      return 'a field more'
  }
}

/** A file without what may differ: the ids (by what they point to), the order of rows, when it was written. */
function plain(file: JobFile): unknown {
  const names = new Map<string, string>()
  for (const row of [...file.job.networks, ...file.job.lines]) names.set(row.id, `row ${row.name}`)
  for (const device of file.job.devices) names.set(device.id, `device ${device.tag}`)
  const tidy = (value: unknown): unknown => {
    if (typeof value === 'string')
      return value.replace(
        /[0-9a-f]{8}-[0-9a-f]{4}-4[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}/g,
        (id) => names.get(id) ?? 'id',
      )
    if (Array.isArray(value)) {
      const rows = value.map((each) => {
        const row = tidy(each)
        return { row, text: JSON.stringify(row) }
      })
      return rows.sort((a, b) => (a.text < b.text ? -1 : 1)).map(({ row }) => row)
    }
    if (typeof value !== 'object' || value === null) return value
    const fields = Object.entries(value).filter(
      // The log is that of this program: it begins anew with the file.
      ([name]) => !['exportedAt', 'log', 'seal'].includes(name),
    )
    return Object.fromEntries(fields.sort(([a], [b]) => (a < b ? -1 : 1)).map(([name, inner]) => [name, tidy(inner)]))
  }
  return tidy(file)
}

test('500 mutations of a job file: refused with a path, or taken and written out again equally', async () => {
  const whole = JSON.stringify(jobFileOf(heronMill(1_764_000_000_000), '2026-01-01T00:00:00.000Z'))
  const counts = { refused: 0, taken: 0 }
  const wrong: string[] = []
  let jobs = 0
  for (let k = 0; k < MUTATIONS; k += 1) {
    const file = JSON.parse(whole) as JobFile
    const what = mutate(file)
    const say = (text: string) => wrong.push(`${k} ${what}: ${text}`)
    const answer = await app.api.post('/api/jobs/import').set('content-type', 'text/plain').send(JSON.stringify(file))
    if (answer.status === 201) {
      counts.taken += 1
      jobs += 1
      const again = (await app.api.get(`/api/jobs/${answer.body.id}/export`)).body as JobFile
      // A field that older files do not have takes its usual value.
      const reading = readJobFile(JSON.stringify(file))
      const meant = reading.ok
        ? { ...file, version: again.version, job: reading.job, firstContact: reading.firstContact }
        : file
      const [before, after] = [plain(meant), plain(again)].map((each) => JSON.stringify(each))
      if (before !== after) say(`came out otherwise: ${firstDifference(before ?? '', after ?? '')}`)
      await app.api.delete(`/api/jobs/${answer.body.id}`)
    } else {
      counts.refused += 1
      if (answer.status >= 500) say(`${answer.status} ${JSON.stringify(answer.body).slice(0, 300)}`)
      const [problem] = answer.body.problems ?? []
      if (!problem?.what) say(`${answer.status} without a sentence`)
    }
  }
  console.info(`Job file fuzz: ${MUTATIONS} mutations, ${JSON.stringify(counts)}`)
  expect(wrong).toEqual([])
  expect(counts.refused).toBeGreaterThan(200)
  expect(counts.taken).toBeGreaterThan(30)
  // What was refused left nothing behind.
  const rows: { n: number }[] = await app.api.get('/api/jobs').then((answer) => [{ n: answer.body.length }])
  expect(rows[0]?.n).toBe(0)
  expect(jobs).toBe(counts.taken)
  // Alone it takes some seconds; beside other work of this machine it may take minutes, and is right all the same.
}, 300_000)

function firstDifference(a: string, b: string): string {
  let k = 0
  while (k < a.length && a[k] === b[k]) k += 1
  return `${a.slice(Math.max(0, k - 60), k + 60)} | ${b.slice(Math.max(0, k - 60), k + 60)}`
}
