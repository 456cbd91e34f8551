import { get } from 'node:http'
import { noFaults } from '@calm/bench'
import type { LiveReading } from '@calm/contract'
import { startTestApp, type TestApp } from '../fixtures'

let app: TestApp
beforeAll(async () => {
  app = await startTestApp()
})
afterAll(() => app.stop())

/** What the device shows of each point of the meter, once every point was seen as asked for. */
async function watch(
  isSeen: (reading: LiveReading) => boolean,
): Promise<{ readonly readings: Readonly<Record<string, LiveReading>>; readonly requests: readonly string[] }> {
  const job = await app.job()
  const meter = job.handshakes.find(({ name }) => name === 'PLC-101 to EM-501')
  const names = new Map(meter?.points.map(({ id, quantity }) => [id, quantity]))
  const readings: Record<string, LiveReading> = {}
  const requests: string[] = []
  return new Promise((done, fail) => {
    const url = `http://127.0.0.1:${app.running.port}/api/jobs/${job.id}/stream?live=${meter?.id}`
    const timer = setTimeout(() => fail(new Error(`Not seen: ${JSON.stringify(readings)}`)), 20_000)
    const request = get(url, (response) => {
      let rest = ''
      response.setEncoding('utf8')
      response.on('error', () => undefined)
      response.on('data', (text: string) => {
        const events = (rest + text).split('\n\n')
        rest = events.pop() ?? ''
        for (const event of events) {
          const content = /^event: reading\ndata: (.*)$/s.exec(event)?.[1]
          if (!content) continue
          const reading = JSON.parse(content) as LiveReading
          if (reading.hop !== 'device' || !isSeen(reading)) continue
          requests.push(reading.requestHex)
          readings[names.get(reading.pointId) ?? ''] = reading
        }
        if (Object.keys(readings).length < names.size) return
        clearTimeout(timer)
        request.destroy()
        done({ readings, requests })
      })
    })
    request.on('error', () => undefined)
  })
}

test('all points of a device in one request, each with its own words', async () => {
  const { readings } = await watch(({ silence }) => silence === '')
  const sent = new Set(Object.values(readings).map(({ requestHex }) => requestHex))
  expect(sent.size).toBe(1)
  // 26 registers from 0: voltage at 0, frequency at 22, energy at 24.
  expect([...sent][0]).toMatch(/ 01 04 00 00 00 1A$/)
  expect(Object.values(readings).map(({ words }) => words?.length)).toEqual([2, 2, 2])
  expect(readings.Frequency?.value).toBeGreaterThan(49)
  expect(readings['Energy, total']?.value).toBeGreaterThan(4000)
})

test('refused as a whole, each is asked alone: what is there is read, what is not there says so', async () => {
  app.running.bench.setFaults('EM-501', { ...noFaults, mapShifted: true })
  const { readings } = await watch(({ requestHex }) => / 00 02$/.test(requestHex))
  app.running.bench.setFaults('EM-501', noFaults)
  expect(readings['Voltage L1 to N']?.silence).toMatch(/exception 2/)
  expect(readings['Voltage L1 to N']?.value).toBeNull()
  expect(readings.Frequency?.words).toHaveLength(2)
})

test('silence counts for all that were asked together, and is never a value', async () => {
  app.running.bench.setFaults('EM-501', { ...noFaults, silent: true })
  const { readings, requests } = await watch(({ silence }) => silence !== '')
  app.running.bench.setFaults('EM-501', noFaults)
  expect(new Set(requests).size).toBe(1)
  expect(Object.values(readings).every(({ value, words }) => value === null && words === null)).toBe(true)
})

test('what must not be read is in no request, and a point on it is not asked', async () => {
  const job = await app.job()
  const meter = job.handshakes.find(({ name }) => name === 'PLC-101 to EM-501')
  if (!meter) throw new Error('No meter.')
  const { id, version } = meter
  const fields = { unreadable: '10, 24-25' }
  await app.change(job.id, { op: 'set', table: 'handshake', id, version, fields }).expect(204)
  const { readings, requests } = await watch(({ asked, silence }) => asked !== '' || silence.includes('must not'))
  // The voltage at 0 and the frequency at 22 are parted by address 10: each alone, two registers.
  expect(readings['Energy, total']).toMatchObject({ value: null, requestHex: '' })
  expect(readings['Energy, total']?.silence).toMatch(/24 to 25 must not be read/)
  expect(requests.filter((hex) => hex !== '').every((hex) => / 00 02$/.test(hex))).toBe(true)
  expect(readings.Frequency?.value).toBeGreaterThan(49)
})
