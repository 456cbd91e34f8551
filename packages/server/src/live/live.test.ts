import { get } from 'node:http'
import { noFaults, type StandIn } from '@calm/bench'
import type { Faults, LiveReading } from '@calm/contract'
import { sayEvidenceInFull } from '@calm/core/evidence'
import { evidenceOf as evidenceOfHandshake, type Job } from '@calm/core/job'
import { startTestApp, type TestApp } from '../fixtures'

let app: TestApp
beforeAll(async () => {
  app = await startTestApp()
})
afterAll(() => app.stop())
afterEach(() => {
  setFaults('EM-501', {})
})

const setFaults = (tag: StandIn['definition']['tag'], faults: Partial<Faults>) =>
  app.running.bench.setFaults(tag, { ...noFaults, ...faults })
const meterOf = (job: Job) => job.handshakes.find((each) => each.name === 'PLC-101 to EM-501')!

const evidenceOf = (job: Job) => evidenceOfHandshake(job, meterOf(job))
const pointOf = (job: Job) => meterOf(job).points[0]?.id

/** Watches the stream until one reading of each kind fits; ends the connection then. */
function watch(
  job: Job,
  fits: (readings: Partial<Record<LiveReading['hop'], LiveReading>>) => boolean,
  milliseconds = 6000,
) {
  return new Promise<Record<LiveReading['hop'], LiveReading>>((done, fail) => {
    const readings: Partial<Record<LiveReading['hop'], LiveReading>> = {}
    const request = get(
      `http://127.0.0.1:${app.running.port}/api/jobs/${job.id}/stream?live=${meterOf(job).id}`,
      (response) => {
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
            if (reading.pointId === pointOf(job)) readings[reading.hop] = reading
          }
          if (fits(readings)) {
            clearTimeout(timer)
            request.destroy()
            done(readings as Record<LiveReading['hop'], LiveReading>)
          }
        })
      },
    )
    request.on('error', () => undefined)
    const timer = setTimeout(() => {
      request.destroy()
      fail(new Error(`not seen: ${JSON.stringify(readings)}`))
    }, milliseconds)
  })
}

async function setControllerOrder(order: string): Promise<Job> {
  const job = await app.job()
  const term = meterOf(job).terms.find((each) => each.termId === 'word-order' && each.end === 'controller')!
  const fields = { text: order }
  const { id, version } = term
  await app.change(job.id, { op: 'set', table: 'term', id, version, fields }).expect(204)
  return app.job()
}

const record = (job: Job, seen: Record<LiveReading['hop'], LiveReading>, shown: string | null) =>
  app.api.post(`/api/handshakes/${meterOf(job).id}/reading`).send({
    pointId: meterOf(job).points[0]?.id,
    deviceReading: seen.device.sequence,
    controllerReading: seen.controller.sequence,
    controllerTyped: null,
    shownTyped: shown,
    typedAt: Date.now(),
  })

describe('live readings on the bench', () => {
  test('the words of the meter, decoded, with the planned and the loopback address', async () => {
    const seen = await watch(
      await app.job(),
      (readings) => readings.device !== undefined && readings.controller !== undefined,
    )
    expect(seen.device).toMatchObject({
      asked: '10.20.40.50:502',
      servedAt: expect.stringMatching(/^127\.\d+\.40\.50:/),
      mode: 'bench',
      silence: '',
    })
    expect(seen.device.value).toBeGreaterThan(228)
    expect(seen.device.value).toBeLessThan(233)
    expect(seen.device.requestHex).toMatch(/ 01 04 00 00 00 1A$/)
  })

  test('with the words taken the wrong way round the verdict fails, and it cannot be recorded as proven', async () => {
    const job = await setControllerOrder('CDAB')
    const seen = await watch(
      job,
      (readings) =>
        (readings.device?.value ?? 0) > 200 &&
        readings.controller?.value != null &&
        Math.abs(readings.controller.value - 230) > 50,
    )
    const answer = await record(job, seen, '230.4')
    expect(answer).toMatchObject({
      status: 201,
      body: { verdict: 'at-odds', say: 'The words arrive whole. PLC-101 takes them as low word first.' },
    })
    expect(evidenceOf(await app.job()).at(-1)).toMatchObject({ rung: 'reading', verdict: 'at-odds' })
  })

  test('corrected at the controller end, it is right at every hop and recorded as proven', async () => {
    const job = await setControllerOrder('ABCD')
    const seen = await watch(
      job,
      (readings) => (readings.device?.value ?? 0) > 200 && Math.abs((readings.controller?.value ?? 0) - 230) < 5,
    )
    expect(await record(job, seen, '230.4')).toMatchObject({ status: 201, body: { verdict: 'proven' } })
    const kept = evidenceOf(await app.job()).at(-1)
    expect(kept).toMatchObject({ verdict: 'proven', mode: 'bench' })
    expect(sayEvidenceInFull(kept?.facts ?? [])[0]).toMatch(/^EM-501: .* words [0-9A-F]{4} [0-9A-F]{4}, read live at /)
  })

  test('a shown value outside the tolerance makes the whole path at odds; one that is no number is refused', async () => {
    const job = await app.job()
    const seen = await watch(
      job,
      (readings) => (readings.device?.value ?? 0) > 200 && Math.abs((readings.controller?.value ?? 0) - 230) < 5,
    )
    expect((await record(job, seen, '410')).body.verdict).toBe('at-odds')
    expect(await record(job, seen, '230,4')).toMatchObject({
      status: 422,
      body: { problems: [{ where: 'shownTyped', found: '230,4' }] },
    })
  })

  test('the stand-in switched to swapped words: the device hop itself is wrong', async () => {
    const job = await app.job()
    setFaults('EM-501', { wordsSwapped: true })
    const seen = await watch(
      job,
      (readings) =>
        readings.controller !== undefined &&
        readings.device?.value != null &&
        Math.abs(readings.device.value - 230) > 50,
    )
    expect((await record(job, seen, '230.4')).body).toMatchObject({
      verdict: 'at-odds',
      say: expect.stringMatching(/^EM-501 itself/),
    })
  })

  test.each<[string, Partial<Faults>, RegExp]>([
    ['silent', { silent: true }, /Nothing answered within 1000 ms/],
    [
      'slow: its late answer is never a value',
      { slow: true },
      /Nothing answered within 1000 ms|belongs to another request/,
    ],
    ['wrong unit', { wrongUnit: true }, /Another unit answered/],
    ['exception 2', { exception2: true }, /exception 2, illegal data address/],
    ['map shifted by one', { mapShifted: true }, /exception 2/],
  ])('%s', async (_what, faults, silence) => {
    setFaults('EM-501', faults)
    const seen = await watch(
      await app.job(),
      (readings) => readings.device !== undefined && silence.test(readings.device.silence),
    )
    expect(seen.device.value).toBeNull()
    expect(seen.device.text).toBe('')
  })
})
