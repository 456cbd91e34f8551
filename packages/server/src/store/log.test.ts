import { startTestApp, type TestApp } from '../fixtures'
import { CHAIN_START, hashOf } from './chain'
import { readLog } from './log'

let app: TestApp
beforeAll(async () => {
  app = await startTestApp({ demo: undefined })
})
afterAll(() => app.stop())

const begin = async (name = 'Log'): Promise<string> =>
  (await app.api.post('/api/jobs').send({ name, place: '', mode: 'bench' })).body.id

describe('control characters', () => {
  test.each([
    ['a NUL', 'pump\u0000house'],
    ['an escape', 'pump\u001b[31mhouse'],
    ['half a surrogate', 'pump \ud83d house'],
    ['a mark that turns the writing', 'pump\u202ehouse'],
  ])('%s in a text is refused at its path, and nothing is kept', async (_what, place) => {
    const answer = await app.api.post('/api/jobs').send({ name: 'X', place, mode: 'bench' })
    expect(answer.status).toBe(400)
    expect(answer.body.problems[0]).toMatchObject({ where: 'place', what: expect.stringMatching(/control character/) })
  })

  test('in a name of a field, in a list, in an address, in a file', async () => {
    const id = await begin()
    const field = await app.change(id, { op: 'set', table: 'job', id, version: 1, fields: { 'pl\u0000ace': 'x' } })
    expect([field.status, field.body.problems[0].found]).toEqual([400, 'U+0000'])
    const list = await app.api.post(`/api/jobs/${id}/pictures`).send({ when: 'before', notes: ['fine', 'a\u0000b'] })
    expect(list.body.problems[0].where).toBe('notes[1]')
    expect((await app.api.get('/api/jobs/a%00b')).status).toBe(400)
    const file = await app.api
      .post('/api/jobs/import')
      .set('content-type', 'text/plain')
      .send('{"format":"calm-handshake-job","version":3,"job":{"name":"a\\u0000b"}}')
    expect(file.body.problems[0]).toMatchObject({ where: 'job.name', found: 'U+0000' })
  })

  test('letters of every script, tabs and emoji pass', async () => {
    const answer = await app.api
      .post('/api/jobs')
      .send({ name: 'Brutanlage Süd 漢字 🔧', place: 'a\tb', mode: 'bench' })
    expect(answer.status).toBe(201)
    expect(answer.body).toMatchObject({ name: 'Brutanlage Süd 漢字 🔧', place: 'a\tb' })
  })

  test('what a device says goes into the log without its NULs, and the chain stays whole', async () => {
    const id = await begin('Device')
    await app.running.store.write('A. Lund\u0000', (tx) => tx.log(id, 'Answered: EM-501\u0000\u0000\u0000 1.4\ud800'))
    const log = await readLog(app.running.store.source.manager, id)
    expect(log).toMatchObject({ whole: true, notes: [] })
    expect(log.entries.at(-1)).toMatchObject({ who: 'A. Lund', what: 'Answered: EM-501 1.4' })
  })
})

describe('a chain that an older program broke', () => {
  const insert = async (jobId: string, what: string, sealed = what) => {
    const { manager } = app.running.store.source
    const [before] = await manager.query(`SELECT hash FROM log_entry WHERE jobId = ? ORDER BY sequence DESC LIMIT 1`, [
      jobId,
    ])
    const content = {
      jobId,
      at: 5,
      who: 'R. Osei',
      what: sealed,
      detail: '{}',
      previousHash: before?.hash ?? CHAIN_START,
    }
    await manager.query(
      `INSERT INTO log_entry (jobId, at, who, what, detail, previousHash, hash) VALUES (?, ?, ?, ?, ?, ?, ?)`,
      [jobId, 5, 'R. Osei', what, '{}', content.previousHash, hashOf(content)],
    )
  }
  const told = async (jobId: string) => (await app.api.get(`/api/jobs/${jobId}/log`)).body

  test('by a NUL: the entry is named, read whole, and its seal fits', async () => {
    const id = await begin()
    await insert(id, 'Identity: EM-501\u0000\u0000 1.4')
    await insert(id, 'after it')
    const log = await told(id)
    expect(log).toMatchObject({ whole: true, brokenAt: null })
    const entry = log.entries.find((each: { what: string }) => each.what === 'Identity: EM-501 1.4')
    expect(log.notes).toEqual([
      expect.stringMatching(`^Entry ${entry.sequence} holds a control character .* its seal fits`),
    ])
  })

  test('by a hand from outside', async () => {
    const hand = await begin()
    await insert(hand, 'value 20 %', 'value 10 %')
    expect(await told(hand)).toMatchObject({
      whole: false,
      notes: [expect.stringMatching(/changed outside this program/)],
    })
  })
})
