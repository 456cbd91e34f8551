import type { LogRow } from '../db'
import { startTestApp, type TestApp } from '../fixtures'
import { openDatabase } from '../db'
import { CHAIN_START, firstBroken, hashOf, type LogContent } from './chain'

describe('the log of a job', () => {
  let app: TestApp
  beforeAll(async () => {
    app = await startTestApp()
  })
  afterAll(() => app.stop())
  const setPlace = ({ id, version }: { readonly id: string; readonly version: number }, place: string) => ({
    op: 'set',
    table: 'job',
    id,
    version,
    fields: { place },
  })

  test('grows with every change, says who did what, and its chain is whole', async () => {
    const job = await app.job()
    await app.change(job.id, setPlace(job, 'pump house, level 1'))
    const log = (await app.api.get(`/api/jobs/${job.id}/log`)).body
    expect(log).toMatchObject({ whole: true, brokenAt: null })
    expect(log.entries.at(-1)).toMatchObject({
      what: 'Job Heron Mill hatchery: place: pump house -> pump house, level 1',
    })
  })

  test('a change that is refused leaves no line', async () => {
    const job = await app.job()
    const before = (await app.api.get(`/api/jobs/${job.id}/log`)).body.entries.length
    await app.change(job.id, { ...setPlace(job, 'x'), version: 99 })
    expect((await app.api.get(`/api/jobs/${job.id}/log`)).body.entries).toHaveLength(before)
  })
})

describe('the chain', () => {
  const chain = (count: number): LogRow[] => {
    const rows: LogRow[] = []
    for (let k = 0; k < count; k += 1) {
      const content: LogContent = {
        jobId: 'j',
        at: k,
        who: 'R. Osei',
        what: `entry ${k}`,
        detail: '{}',
        previousHash: rows.at(-1)?.hash ?? CHAIN_START,
      }
      rows.push({ ...content, sequence: k + 1, hash: hashOf(content) })
    }
    return rows
  }

  test('a change, a missing line, and two lines in another order are found where they are', () => {
    expect(firstBroken(chain(5))).toBeUndefined()
    expect(firstBroken(chain(5).map((row) => (row.sequence === 3 ? { ...row, who: 'nobody' } : row)))?.sequence).toBe(3)
    expect(firstBroken(chain(5).filter((row) => row.sequence !== 2))?.sequence).toBe(3)
    const [a, b, ...rest] = chain(5)
    expect(firstBroken([b!, a!, ...rest])?.sequence).toBe(2)
  })

  test('the hash is SHA-256 over every field (FIPS 180-4, by Node’s own implementation): no field may move into another', () => {
    const base: LogContent = { jobId: 'j', at: 1, who: 'ab', what: 'c', detail: '', previousHash: CHAIN_START }
    expect(hashOf(base)).toMatch(/^[0-9a-f]{64}$/)
    expect(hashOf(base)).not.toBe(hashOf({ ...base, who: 'a', what: 'bc' }))
    // The lengths stand inside: a text that looks like the next field does not pass for it.
    expect(hashOf({ ...base, who: 'a|1:b' })).not.toBe(hashOf({ ...base, who: 'a', what: 'b|1:c' }))
  })

  // Hashes of a known log, by Python's hashlib: `|`-joined `length:field` of previous hash, job, time, who, what, detail.
  test('a log of years ago is read as it was sealed', () => {
    const first: LogContent = { jobId: 'j', at: 1, who: 'ab', what: 'c', detail: '', previousHash: CHAIN_START }
    expect(hashOf(first)).toBe('ac39f44010edae71ae70d5954af661495b48fcca5f61c7c8affe9ed08744d94f')
    const second: LogContent = {
      jobId: 'j',
      at: 1_764_000_000_000,
      who: 'R. Osei',
      what: 'PD-101 set | 3:abc',
      detail: '{"to":"10.20.40.21"}',
      previousHash: hashOf(first),
    }
    expect(hashOf(second)).toBe('d2eca9f820b131e70c2df62fca4410b02190cdd2877a38e3704f26fa58229f1d')
  })

  test('the database itself refuses to change or delete what was recorded', async () => {
    const source = await openDatabase(':memory:')
    await source.query(
      `INSERT INTO log_entry (jobId, at, who, what, detail, previousHash, hash) VALUES ('j', 1, 'a', 'b', '{}', '', '')`,
    )
    await expect(source.query(`UPDATE log_entry SET who = 'x'`)).rejects.toThrow(/append-only/)
    await expect(source.query(`DELETE FROM log_entry`)).rejects.toThrow(/append-only/)
    await source.destroy()
  })
})
