import { blankDevice } from '@calm/core/job'
import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { openDatabase, jobs, devices, type JobRow } from '../db'
import { addJob, readJob, Refused, Store, writeNewJob } from '.'
import { heronMill } from '../demo'
import { differences } from './rows'

let store: Store
beforeEach(async () => {
  store = new Store(await openDatabase(':memory:'), () => 1_700_000_000_000)
})
afterEach(() => store.source.destroy())

const fields = { name: 'Test', place: '', mode: 'bench' } as const

describe('writing', () => {
  test('a write that breaks half-way leaves nothing behind', async () => {
    const broken = store.write('R. Osei', async (tx) => {
      await addJob(tx, fields)
      throw new Error('power cut')
    })
    await expect(broken).rejects.toThrow('power cut')
    expect(await store.source.manager.count(jobs)).toBe(0)
  })

  test('writes go one after the other, and one that breaks does not stop the next', async () => {
    const order: string[] = []
    const slow = store.write('a', async () => {
      await new Promise((done) => setTimeout(done, 20))
      order.push('slow')
    })
    const broken = store.write('b', async () => {
      order.push('broken')
      throw new Error('x')
    })
    const last = store.write('c', async (tx) => {
      order.push('last')
      return addJob(tx, fields)
    })
    await Promise.allSettled([slow, broken, last])
    expect(order).toEqual(['slow', 'broken', 'last'])
    expect(await store.source.manager.count(jobs)).toBe(1)
  })

  test('listeners hear of the job that was touched, after it is saved, and not of refused writes', async () => {
    const heard: string[] = []
    const stop = store.onChange((jobId) => heard.push(jobId))
    const id = await store.write('a', (tx) => addJob(tx, fields))
    await store
      .write('a', async (tx) => {
        await tx.log(id, 'something')
        throw new Error('x')
      })
      .catch(() => undefined)
    expect(heard).toEqual([id])
    stop()
    await store.write('a', (tx) => addJob(tx, fields))
    expect(heard).toEqual([id])
  })
})

describe('a whole job', () => {
  test('is written and read back as it was, with links that hold', async () => {
    const sample = heronMill(1_700_000_000_000)
    const id = await store.write('demo', (tx) => writeNewJob(tx, sample, 'begun'))
    const read = await readJob(store.source.manager, id)
    const tags = (job: typeof read) =>
      job.handshakes.map((each) =>
        [each.controllerId, each.deviceId].map((end) => job.devices.find((device) => device.id === end)?.tag),
      )
    expect(tags(read)).toEqual(tags(sample))
    expect(read.handshakes.map((each) => each.evidence.length)).toEqual(
      sample.handshakes.map((each) => each.evidence.length),
    )
    expect(read.handshakes[0]?.points[0]?.tolerance).toEqual({ kind: 'percent-of-reading', percent: 1 })
  })

  test('that is not there is refused as such', async () => {
    await expect(readJob(store.source.manager, 'nothing')).rejects.toBeInstanceOf(Refused)
  })

  test('the database itself keeps links and choices right', async () => {
    const row: JobRow = { id: 'j', ...fields, version: 1, addressRules: '[]', createdAt: 0, removedAt: null }
    await expect(store.source.manager.insert(jobs, { ...row, mode: 'somewhere' })).rejects.toThrow(/CHECK/)
    const orphan = {
      ...blankDevice,
      namePlaces: '[]',
      id: 'd',
      jobId: 'nothing',
      position: 1,
      tag: 'X',
      kind: 'meter',
      version: 1,
      removedAt: null,
    }
    await expect(store.source.manager.insert(devices, orphan)).rejects.toThrow(/FOREIGN KEY/)
  })

  test('pragmas: WAL for files, full sync, links on', async () => {
    expect(await store.source.query('PRAGMA foreign_keys')).toEqual([{ foreign_keys: 1 }])
    expect(await store.source.query('PRAGMA synchronous')).toEqual([{ synchronous: 2 }])
  })
})

test('a database of before is brought to the newest form, with everything in it', async () => {
  const file = join(mkdtempSync(join(tmpdir(), 'calm-store-')), 'old.sqlite')
  const old = await openDatabase(file)
  for (let step = 0; step < 3; step += 1) await old.undoLastMigration()
  await old.query(`INSERT INTO job VALUES ('j', 'Old', '', 'bench', 1, 0, NULL)`)
  await old.query(`INSERT INTO device VALUES ('d', 'j', 1, 'EM-501', '', 'meter', NULL, 1, '', '', 1, NULL)`)
  await old.query(`INSERT INTO port VALUES ('p', 'd', 'Ethernet', NULL, '10.20.40.50', NULL, NULL, 502, 1)`)
  await old.destroy()
  const now = await openDatabase(file)
  expect((await readJob(now.manager, 'j')).devices[0]?.ports[0]).toMatchObject({ address: '10.20.40.50', mac: null })
  expect(await now.query('PRAGMA journal_mode')).toEqual([{ journal_mode: 'wal' }])
  await now.destroy()
})

test('what changed is told for the log, and what stayed is not', () => {
  expect(differences({ a: 1, b: null, c: 'x' }, { a: 1, b: 2, c: '' })).toBe('b: blank -> 2, c: x -> blank')
})
