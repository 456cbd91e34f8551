import { noFaults } from '@calm/bench'
import type { LookAround } from '@calm/contract'
import { decodeValue } from '@calm/core/values'
import { startTestApp, type TestApp } from '../fixtures'
import { windowAround } from './lookAround'

let app: TestApp
beforeAll(async () => {
  app = await startTestApp()
})
afterAll(() => app.stop())
afterEach(() => app.running.bench.setFaults('EM-501', noFaults))

async function look(quantity: string): Promise<LookAround> {
  const job = await app.job()
  const handshake = job.handshakes.find((each) => each.name === 'PLC-101 to EM-501')
  const point = handshake?.points.find((each) => each.quantity === quantity)
  const answer = await fetch(
    `http://127.0.0.1:${app.running.port}/api/handshakes/${handshake?.id}/points/${point?.id}/look`,
    { method: 'POST', headers: { 'content-type': 'application/json' }, body: '{}' },
  )
  expect(answer.status).toBe(200)
  return (await answer.json()) as LookAround
}

test('the registers around a point in one read, and what the controller shows', async () => {
  const seen = await look('Frequency')
  expect([seen.first, seen.words.length, seen.silence]).toEqual([18, 10, ''])
  // Frequency lies at 22 and 23, as the manual of the stand-in says.
  const value = decodeValue(seen.words.slice(4, 6).map(Number), { type: 'float32', order: 'ABCD' })
  expect(value.ok && value.value.kind === 'number' && Math.abs(value.value.value - 50) < 0.1).toBe(true)
  expect(seen.mode).toBe('bench')
  expect(seen.servedAt).toMatch(/^127\./)
  expect(seen.controller.silence === '' ? typeof seen.controller.value : seen.controller.silence).not.toBe('')
})

test('where the whole span is refused each register is asked alone; what is not there stays open', async () => {
  // The first point begins at 0: nothing lies before it, and one read is enough.
  expect(await look('Voltage L1 to N')).toMatchObject({ first: 0, requests: 1 })
  // With the map shifted by one, register 0 is none.
  app.running.bench.setFaults('EM-501', { ...noFaults, mapShifted: true })
  const seen = await look('Voltage L1 to N')
  expect(seen.words[0]).toBeNull()
  expect(seen.words.slice(1).every((word) => typeof word === 'number')).toBe(true)
  expect(seen.requests).toBe(1 + seen.words.length)
  expect(seen.silence).toBe('')
})

test('addresses that must not be read are not looked at', async () => {
  const job = await app.job()
  const meter = job.handshakes.find((each) => each.name === 'PLC-101 to EM-501')
  if (!meter) throw new Error('No meter.')
  const { id, version } = meter
  await app
    .change(job.id, { op: 'set', table: 'handshake', id, version, fields: { unreadable: '20-21, 24' } })
    .expect(204)
  const seen = await look('Frequency')
  expect([seen.first, seen.words.length]).toEqual([22, 2])
})

test('silence is no words, with its reason; a point that is not there is told', async () => {
  app.running.bench.setFaults('EM-501', { ...noFaults, silent: true })
  const seen = await look('Frequency')
  expect(seen.words).toEqual([])
  expect(seen.silence).not.toBe('')
  const job = await app.job()
  const url = `http://127.0.0.1:${app.running.port}/api/handshakes/${job.handshakes[0]?.id}/points/none/look`
  expect(
    (await fetch(url, { method: 'POST', headers: { 'content-type': 'application/json' }, body: '{}' })).status,
  ).toBe(404)
})

test('a look stays clear of addresses that must not be read', () => {
  expect(windowAround({ first: 10, last: 11 }, [])).toEqual({ first: 6, last: 15 })
  const bars = [
    { first: 0, last: 7 },
    { first: 13, last: 20 },
    { first: 14, last: 14 },
  ]
  expect(windowAround({ first: 10, last: 11 }, bars)).toEqual({ first: 8, last: 12 })
  expect(windowAround({ first: 1, last: 2 }, [])).toEqual({ first: 0, last: 6 })
})
