import { blankDevice } from '@calm/core/job'
import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { insertRows, openDatabase, rowEntities } from '../db'
import { olderDatabase } from '../db/fixtures'
import { heronMill } from '../demo'
import { differencesInLog } from './changeWords'
import { addJob, readJob, Refused, Store, writeNewJob } from '.'

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
    expect(await store.source.manager.count(rowEntities.job)).toBe(0)
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
    expect(await store.source.manager.count(rowEntities.job)).toBe(1)
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
    // A walk goes on without a line in the log.
    await store.write('a', (tx) => Promise.resolve(tx.walkChanged(id)))
    expect(heard).toEqual([id, id])
    stop()
    await store.write('a', (tx) => addJob(tx, fields))
    expect(heard).toEqual([id, id])
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
    expect(read.evidence.map(({ rung, facts }) => ({ rung, facts }))).toEqual(
      sample.evidence.map(({ rung, facts }) => ({ rung, facts })),
    )
    expect(read.handshakes[0]?.points[0]?.tolerance).toEqual({ kind: 'percent-of-reading', percent: 1 })
  })

  test('that is not there is refused as such', async () => {
    await expect(readJob(store.source.manager, 'nothing')).rejects.toBeInstanceOf(Refused)
  })

  test('the database itself keeps links and choices right', async () => {
    const row = { id: 'j', ...fields, version: 1, addressRules: '[]', createdAt: 0, removedAt: null }
    await expect(insertRows(store.source.manager, 'job', [{ ...row, mode: 'somewhere' }])).rejects.toThrow(/CHECK/)
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
    await expect(insertRows(store.source.manager, 'device', [orphan])).rejects.toThrow(/FOREIGN KEY/)
  })

  test('pragmas: WAL for files, full sync, links on', async () => {
    expect(await store.source.query('PRAGMA foreign_keys')).toEqual([{ foreign_keys: 1 }])
    expect(await store.source.query('PRAGMA synchronous')).toEqual([{ synchronous: 2 }])
  })
})

describe('a database of an older program', () => {
  const fileOf = (name: string) => join(mkdtempSync(join(tmpdir(), 'calm-store-')), name)

  test('of the first form is brought to the newest, with everything in it', async () => {
    const file = fileOf('first.sqlite')
    const old = await olderDatabase(file, 1)
    await old.query(`INSERT INTO job VALUES ('j', 'Old', '', 'bench', 1, 0, NULL)`)
    await old.query(`INSERT INTO device VALUES ('d', 'j', 1, 'EM-501', '', 'meter', NULL, 1, '', '', 1, NULL)`)
    await old.query(`INSERT INTO port VALUES ('p', 'd', 'Ethernet', NULL, '10.20.40.50', NULL, NULL, 502, 1)`)
    await old.destroy()
    const now = await openDatabase(file)
    expect((await readJob(now.manager, 'j')).devices[0]).toMatchObject({
      firmwareRelation: 'any',
      orderCode: '',
      namePlaces: [],
      ports: [{ address: '10.20.40.50', mac: null, school: null }],
    })
    expect(await now.query('PRAGMA journal_mode')).toEqual([{ journal_mode: 'wal' }])
    await now.destroy()
  })

  test('evidence in sentences gets a subject, and every sentence stays as it was', async () => {
    const file = fileOf('before-ground.sqlite')
    const old = await olderDatabase(file, 4)
    const rows = [
      `INSERT INTO job ("id", "name", "place", "mode", "version", "createdAt") VALUES ('j', 'Old', '', 'bench', 1, 0)`,
      `INSERT INTO device ("id", "jobId", "position", "tag", "what", "kind", "asFound", "note", "version") VALUES
         ('c', 'j', 1, 'PLC', '', 'controller', '', '', 1), ('d', 'j', 2, 'EM', '', 'meter', '', '', 1)`,
      `INSERT INTO handshake ("id", "jobId", "position", "name", "controllerId", "deviceId", "version")
         VALUES ('h', 'j', 1, 'PLC to EM', 'c', 'd', 1)`,
      `INSERT INTO term VALUES ('t', 'h', 'count', 'device', '2', NULL, 'its manual', 3)`,
      `INSERT INTO point VALUES ('p', 'h', 0, 'EM_U1', 'Voltage', 'V', 1, NULL, '', NULL, '{"kind":"absolute","amount":1}', 1)`,
      ...[
        ['e1', 'powered', 'proven', 1, 'Lamps as drawn', '["in detail"]'],
        ['e2', 'reading', 'at-odds', 2, 'Voltage: EM 23.0 V', '[]'],
      ].map(
        ([id, rung, verdict, at, value, detail]) =>
          `INSERT INTO evidence VALUES ('${id}', 'h', '${rung}', '${verdict}', 'R. Osei', ${at}, 'seen', '${value}', '{"point":"EM_U1 V"}', 'bench', '${detail}')`,
      ),
    ]
    for (const row of rows) await old.query(row)
    await old.destroy()
    const now = await openDatabase(file)
    const job = await readJob(now.manager, 'j')
    expect(job.evidence).toEqual([
      expect.objectContaining({
        id: 'e1',
        subject: { kind: 'handshake', id: 'h' },
        rung: 'powered',
        facts: [
          { kind: 'text', text: 'Lamps as drawn' },
          { kind: 'text', text: 'in detail' },
        ],
        basis: { point: 'EM_U1 V' },
      }),
      expect.objectContaining({
        id: 'e2',
        subject: { kind: 'point', id: 'p' },
        verdict: 'at-odds',
        facts: [{ kind: 'text', text: 'Voltage: EM 23.0 V' }],
      }),
    ])
    expect(job.handshakes[0]).toMatchObject({
      terms: [{ id: 't', text: '2', origin: 'its manual', version: 3 }],
      points: [{ id: 'p', position: 0, source: null, asked: true }],
    })
    // Only to be added to, as before.
    await expect(now.query(`UPDATE evidence SET verdict = 'proven'`)).rejects.toThrow(/append-only/)
    await expect(now.query(`DELETE FROM evidence`)).rejects.toThrow(/append-only/)
    await now.destroy()
  })

  test('a field that a newer program added is not passed over: this program would lose it', async () => {
    const file = fileOf('newer.sqlite')
    const newer = await openDatabase(file)
    await newer.query(`ALTER TABLE "device" ADD COLUMN "colour" text`)
    await newer.destroy()
    await expect(openDatabase(file)).rejects.toThrow(/written by a newer program \(it has "colour" of a device\)/)
  })
})

test('what changed is told for the log by the names of its fields, and what stayed is not', () => {
  expect(differencesInLog('device', { tag: 'A', unitId: null, place: 'x' }, { tag: 'A', unitId: 2, place: '' })).toBe(
    'unit id: blank -> 2, place: x -> blank',
  )
})
