import { setTimeout as pause } from 'node:timers/promises'
import { jobFileOf } from '@calm/contract/jobFile'
import { sampleDevice, sampleJob } from '@calm/core/job/fixtures'
import { blankWalk, type StepRecord } from '@calm/core/procedure'
import { rawServer, startTestApp, type TestApp } from '../fixtures'
import { isInsideJob } from './insideJob'
import { unitsBehind } from './sweep'

let app: TestApp
beforeAll(async () => {
  app = await startTestApp({ demo: undefined })
})
afterAll(() => app.stop())

/** A server that takes connections and never answers; it counts them. */
async function silent() {
  let connections = 0
  const server = await rawServer(() => (connections += 1))
  return { ...server, count: () => connections }
}

const id = (n: number) => `6f1c2b1e-8f5e-4b8e-9f5b-${String(n).padStart(12, '0')}`

describe('a file never makes the program talk', () => {
  test('a plant job with a running wait connects to nobody; the wait is parked and says so', async () => {
    const listener = await silent()
    const device = {
      ...sampleDevice('X-1', '127.0.0.1', { id: id(11), asFound: '127.0.0.1', kind: 'meter' }),
      ports: [
        {
          ...sampleDevice('X', null).ports[0]!,
          id: id(12),
          networkId: id(2),
          address: '127.0.0.1',
          tcpPort: listener.port,
          gateway: null,
        },
      ],
    }
    const job = sampleJob({
      id: id(1),
      mode: 'plant',
      networks: [
        {
          id: id(2),
          name: 'lan',
          cidr: '127.0.0.0/24',
          gateway: null,
          vlan: null,
          dhcp: '',
          reserved: '',
          school: 'static',
          version: 1,
        },
      ],
      devices: [device],
    })
    const step: StepRecord = {
      id: id(20),
      stepKey: `group-on X-1 1 / ${id(11)} starts`,
      state: 'waiting',
      note: '',
      rests: null,
      who: 'somebody',
      at: 1,
      version: 1,
      wait: {
        startedAt: Date.now(),
        seconds: 600,
        watch: 'back-at-planned',
        oldAddress: '127.0.0.1',
        newAddress: '127.0.0.1',
        port: listener.port,
        seenGoneAt: null,
        backAt: null,
        triesAfter: 0,
        rangAt: null,
      },
    }
    const order = [
      { kind: 'group-on' as const, groupId: 'X-1' },
      { kind: 'verify' as const, deviceId: id(11) },
    ]
    const file = JSON.stringify(jobFileOf(job, '2026-01-01T00:00:00.000Z', { ...blankWalk, order, steps: [step] }))
    const answer = await app.api.post('/api/jobs/import').set('content-type', 'text/plain').send(file)
    expect(answer.status).toBe(201)
    await pause(1_200)
    expect(listener.count()).toBe(0)
    const walk = (await app.api.get(`/api/jobs/${answer.body.id}/walk`)).body
    expect(walk.steps).toMatchObject([
      { state: 'parked', wait: null, note: expect.stringMatching(/Begin the wait again/) },
    ])
    await listener.stop()
  })
})

describe('the plant is asked inside the job only', () => {
  test('its networks, and the present or planned address of its devices', () => {
    const job = sampleJob({ mode: 'plant', devices: [sampleDevice('X', '10.20.40.50', { asFound: '192.168.1.20' })] })
    const inside = (address: string) => isInsideJob(job, blankWalk, address)
    expect(['10.20.40.7', '10.20.40.50', '192.168.1.20', '192.168.1.9'].map(inside)).toEqual([true, true, true, true])
    expect(['10.20.41.7', '8.8.8.8', '127.0.0.1', 'nothing'].map(inside)).toEqual([false, false, false, false])
  })

  test('a probe elsewhere is refused before anything is sent', async () => {
    const listener = await silent()
    const begun = await app.api.post('/api/jobs').send({ name: 'Plant', place: '', mode: 'plant' })
    const ask = { address: '127.0.0.1', port: listener.port, deviceId: null }
    for (const path of ['probe', 'nothing-answers']) {
      const answer = await app.api.post(`/api/jobs/${begun.body.id}/${path}`).send(ask)
      expect(answer).toMatchObject({
        status: 422,
        body: { problems: [{ what: 'On the plant only addresses of this job are asked.' }] },
      })
    }
    expect(listener.count()).toBe(0)
    await listener.stop()
  })
})

describe('a search of units behind a silent gateway', () => {
  const job = sampleJob({ mode: 'plant' })
  const context = () => ({ ...app.running.liveContext, bench: undefined })

  test('ends when nobody waits for it any more', async () => {
    const listener = await silent()
    const left = new AbortController()
    setTimeout(() => left.abort(), 150)
    const start = performance.now()
    const place = { address: listener.host, port: listener.port }
    const found = await unitsBehind(context(), job, place, { first: 1, last: 247 }, left.signal)
    expect(found).toEqual({ units: [], askedTo: 0, complete: false })
    expect(performance.now() - start).toBeLessThan(1_500)
    const asked = listener.count()
    await pause(700)
    expect(listener.count()).toBe(asked)
    await listener.stop()
  })

  test('ends after its time, and says how far it came', async () => {
    const listener = await silent()
    const place = { address: listener.host, port: listener.port }
    const found = await unitsBehind(context(), job, place, { first: 1, last: 247 }, new AbortController().signal, 100)
    expect(found).toMatchObject({ askedTo: 1, complete: false })
    await listener.stop()
  })
})
