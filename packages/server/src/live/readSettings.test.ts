import type { SettingsSeen } from '@calm/contract'
import { startTestApp, type TestApp } from '../fixtures'

let app: TestApp
beforeAll(async () => {
  app = await startTestApp()
})
afterAll(() => app.stop())

const handshakeOf = async (name: string) => {
  const found = (await app.job()).handshakes.find((each) => each.name === name)
  if (!found) throw new Error(name)
  return found
}
async function read(name: string): Promise<SettingsSeen> {
  const { id } = await handshakeOf(name)
  const answer = await fetch(`http://127.0.0.1:${app.running.port}/api/handshakes/${id}/settings`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: '{}',
  })
  expect(answer.status).toBe(200)
  return (await answer.json()) as SettingsSeen
}
const found = ({ settings }: SettingsSeen) =>
  settings.filter(({ standing }) => standing === 'found').map(({ termId, text, silence }) => [termId, text, silence])

test('a meter shows its line, its number and its word order in registers of its own', async () => {
  expect(found(await read('PLC-101 to FM-202'))).toEqual([
    ['line-settings', '9600 8N1', ''],
    ['unit-id', '2', ''],
    ['word-order', 'ABCD', ''],
  ])
})

test('a unit with another parity answers nothing: a reason for each, and no text', async () => {
  const seen = found(await read('PLC-101 to FM-203'))
  expect(seen.map(([termId, text]) => [termId, text])).toEqual([
    ['line-settings', ''],
    ['unit-id', ''],
    ['word-order', ''],
  ])
  expect(seen.every(([, , silence]) => silence !== '')).toBe(true)
})

test('on the bench the stand-in tells what is entered and what is in force apart', async () => {
  app.running.bench.act('GW-201', { act: 'turn', id: 'order FM-202', value: 'CDAB' })
  const { settings } = await read('PLC-101 to FM-202')
  const orders = settings.filter(({ termId }) => termId === 'word-order')
  expect(orders.map(({ standing, text }) => [standing, text])).toEqual([
    ['found', 'ABCD'],
    ['entered', 'CDAB'],
    ['in-force', 'ABCD'],
  ])
})

test('a number that means nothing, and a text that its term cannot be, are told', async () => {
  const job = await app.job()
  const { id, version } = await handshakeOf('PLC-101 to FM-202')
  const mirrors = [
    { termId: 'line-settings', text: '40022: 9 = 9600 8N1' },
    { termId: 'word-order', text: '40022' },
  ]
  await app.change(job.id, { op: 'set', table: 'handshake', id, version, fields: { mirrors } }).expect(204)
  const seen = found(await read('PLC-101 to FM-202'))
  expect(seen[0]).toEqual(['line-settings', '', expect.stringContaining('40022 shows 2, and nothing says')])
  expect(seen[1]).toEqual(['word-order', '', expect.stringContaining('It shows 2.')])
})

test('a register text that cannot be read is refused with its reason', async () => {
  const job = await app.job()
  const { id, version } = await handshakeOf('PLC-101 to FM-202')
  const mirrors = [{ termId: 'unit-id', text: '40021 wide' }]
  const refused = await app.change(job.id, { op: 'set', table: 'handshake', id, version, fields: { mirrors } })
  expect(refused.status).toBe(400)
  expect(JSON.stringify(refused.body)).toContain('says neither a type nor a factor')
})
