import { spawn } from 'node:child_process'
import {
  copyFileSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  rmSync,
  statSync,
  truncateSync,
  writeFileSync,
} from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import Database from 'libsql'
import { quietOptions, startTestApp } from '../fixtures'
import { start } from '../start'
import { FolderInUse, FolderLock, isHeld } from './lock'
import { NotOurDatabase, openDatabase } from './open'

const folders: string[] = []
const folder = () => {
  const made = mkdtempSync(join(tmpdir(), 'calm-db-'))
  folders.push(made)
  return made
}
afterAll(() => {
  for (const each of folders) rmSync(each, { recursive: true, force: true })
})
const NAME = 'calm-handshake.sqlite'

describe('the database file', () => {
  test('after a stop the file alone is the work: copied without anything beside it, it holds every job', async () => {
    const dataDir = folder()
    const app = await startTestApp({ dataDir })
    const before = await app.job()
    await app.stop()
    const wal = join(dataDir, `${NAME}-wal`)
    expect(existsSync(wal) ? statSync(wal).size : 0).toBe(0)
    const copy = folder()
    copyFileSync(join(dataDir, NAME), join(copy, NAME))
    const again = await startTestApp({ dataDir: copy })
    expect(await again.job()).toEqual(before)
    await again.stop()
  })

  test('after a start too, whatever lay in the log beside it', async () => {
    const dataDir = folder()
    const file = join(dataDir, NAME)
    const first = await openDatabase(file)
    await first.query(`INSERT INTO setting ("key", "value") VALUES ('name', 'A. Lund')`)
    const left = folder()
    for (const end of ['', '-wal', '-shm']) if (existsSync(file + end)) copyFileSync(file + end, join(left, NAME + end))
    await first.destroy()
    expect(statSync(join(left, `${NAME}-wal`)).size).toBeGreaterThan(0)
    const second = await openDatabase(join(left, NAME))
    expect(statSync(join(left, `${NAME}-wal`)).size).toBe(0)
    expect(await second.query(`SELECT value FROM setting WHERE key = 'name'`)).toEqual([{ value: 'A. Lund' }])
    await second.destroy()
  })

  test.each<[string, (file: string) => Promise<void>, RegExp]>([
    ['a folder in its place', async (file) => mkdirSync(file), /is a folder/],
    ['a text', async (file) => writeFileSync(file, 'Tag;IP\n'.repeat(900)), /cannot be read as a database/],
    [
      'another program’s database',
      async (file) => {
        const other = new Database(file)
        other.exec('CREATE TABLE customers (id integer)')
        other.close()
      },
      /database of another program \(it holds customers\)/,
    ],
    [
      'the database of a newer program',
      async (file) => {
        const source = await openDatabase(file)
        await source.query(`INSERT INTO migrations ("timestamp", "name") VALUES (1, 'Later2000000000000')`)
        await source.destroy()
      },
      /written by a newer program \(it has Later2000000000000\)/,
    ],
    [
      'half a database',
      async (file) => {
        await (await openDatabase(file)).destroy()
        truncateSync(file, Math.floor(statSync(file).size / 2 / 4096) * 4096)
      },
      /cannot be read as a database/,
    ],
    [
      'a database with a hole',
      async (file) => {
        await (await openDatabase(file)).destroy()
        const bytes = readFileSync(file)
        bytes.fill(0xff, 4096, 4096 * 6)
        writeFileSync(file, bytes)
      },
      /cannot be read as a database/,
    ],
  ])('%s is told in a sentence, and nothing is written to it', async (_what, make, sentence) => {
    const dataDir = folder()
    const file = join(dataDir, NAME)
    await make(file)
    const before = statSync(file).isDirectory() ? undefined : readFileSync(file)
    await expect(openDatabase(file)).rejects.toThrow(NotOurDatabase)
    await expect(start({ ...quietOptions, dataDir })).rejects.toThrow(sentence)
    if (before) expect(readFileSync(file).equals(before)).toBe(true)
    // The folder is free again: a second try is refused for the same reason, not for a lock.
    await expect(start({ ...quietOptions, dataDir })).rejects.toThrow(sentence)
  })
})

describe('one program for one folder', () => {
  test('the second is told who has it; when the first stops, it is free', async () => {
    const dataDir = folder()
    const first = await startTestApp({ dataDir, demo: undefined })
    await expect(start({ ...quietOptions, dataDir })).rejects.toThrow(
      `in use already by process ${process.pid}, at port ${first.running.port}`,
    )
    await first.stop()
    const second = await startTestApp({ dataDir, demo: undefined })
    await second.stop()
  })

  test('a lock does not outlive its owner, however that ends', async () => {
    const dataDir = folder()
    const program = `const D = require('libsql'); const d = new D(${JSON.stringify(join(dataDir, 'calm-handshake.lock'))}); d.exec('BEGIN EXCLUSIVE'); console.log('held'); setInterval(() => {}, 1000)`
    const owner = spawn(process.execPath, ['-e', program], { stdio: ['ignore', 'pipe', 'inherit'], cwd: process.cwd() })
    await new Promise((done) => owner.stdout.once('data', done))
    writeFileSync(join(dataDir, 'calm-handshake.running.json'), JSON.stringify({ pid: owner.pid, port: 4780 }))
    const attempt = () => new FolderLock(dataDir)
    expect(attempt).toThrow(FolderInUse)
    try {
      attempt()
    } catch (reason) {
      expect((reason as FolderInUse).holder).toEqual({ pid: owner.pid, port: 4780 })
    }
    const gone = new Promise((done) => owner.once('exit', done))
    owner.kill('SIGKILL')
    await gone
    const lock = attempt()
    expect(() => new FolderLock(dataDir)).toThrow(FolderInUse)
    lock.release()
    expect(existsSync(join(dataDir, 'calm-handshake.running.json'))).toBe(false)
  })

  test('the folder and its files are their owner’s alone', async () => {
    if (process.platform === 'win32') return
    const dataDir = folder()
    const app = await startTestApp({ dataDir, demo: undefined })
    expect(statSync(dataDir).mode & 0o777).toBe(0o700)
    expect(statSync(join(dataDir, NAME)).mode & 0o777).toBe(0o600)
    await app.stop()
  })
})

test('a full disk: a sentence with 507, nothing half-saved, and everything as before when there is room', async () => {
  const app = await startTestApp({ demo: undefined })
  const begun = await app.api.post('/api/jobs').send({ name: 'Before', place: '', mode: 'bench' })
  expect(begun.status).toBe(201)
  // The database may not grow: what a full disk does. Source: SQLite, PRAGMA max_page_count
  const [{ page_count: pages }] = (await app.running.store.source.query('PRAGMA page_count')) as [
    { page_count: number },
  ]
  await app.running.store.source.query(`PRAGMA max_page_count = ${pages}`)
  const statuses = new Set<number>()
  let full: { status: number; body: { problems: { what: string }[] } } | undefined
  for (let k = 0; k < 60 && !full; k += 1) {
    const answer = await app.api.post('/api/jobs').send({ name: `Job ${k}`, place: 'x'.repeat(110), mode: 'bench' })
    statuses.add(answer.status)
    if (answer.status !== 201) full = answer
  }
  expect([...statuses].sort()).toEqual([201, 507])
  expect(full?.body.problems[0]?.what).toMatch(/The disk of this server is full\. Nothing of this was saved/)
  const kept = (await app.jobs()).length
  await app.running.store.source.query('PRAGMA max_page_count = 1073741823')
  expect((await app.api.post('/api/jobs').send({ name: 'After', place: '', mode: 'bench' })).status).toBe(201)
  expect(await app.jobs()).toHaveLength(kept + 1)
  expect((await app.api.get(`/api/jobs/${begun.body.id}/log`)).body.whole).toBe(true)
  await app.stop()
})

// Result codes of SQLite: a full disk is no other program.
test.each([
  [{ code: 'SQLITE_BUSY', message: 'database is locked' }, true],
  [{ code: 'SQLITE_LOCKED', message: '' }, true],
  [{ message: 'database is locked' }, true],
  [{ code: 'SQLITE_FULL', message: 'database or disk is full' }, false],
  [{ code: 'SQLITE_IOERR', message: 'disk I/O error' }, false],
])('%j means that another program has the folder: %s', (reason, held) => expect(isHeld(reason)).toBe(held))
