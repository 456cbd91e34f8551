import { createSocket } from 'node:dgram'
import type { ListenView } from '@calm/contract/api'
import type { Job } from '@calm/core/job'
import { startTestApp, type TestApp } from '../fixtures/testApp'

jest.setTimeout(30_000)

let app: TestApp
let job: Job
let now = 1_764_000_000_000
const api = () => app.api
beforeAll(async () => {
  app = await startTestApp({ clock: () => now })
  const jobs = (await api().get('/api/jobs')).body as readonly { id: string; name: string }[]
  const id = jobs.find(({ name }) => name.includes('rehearsal'))?.id ?? ''
  job = (await api().get(`/api/jobs/${id}`)).body as Job
})
afterAll(() => app.stop())

const path = () => `/api/jobs/${job.id}/listening`
const front = (tag: string, on: boolean) => app.running.bench.act(tag, { act: 'power', on })
const pass = (seconds: number) => (now += seconds * 1000)
/** Asks until something is so; what is sent on the loopback takes a moment. */
async function until(is: (view: ListenView) => boolean): Promise<ListenView> {
  for (let tries = 0; tries < 100; tries += 1) {
    const view = (await api().get(path())).body as ListenView
    if (is(view)) return view
    await new Promise((done) => setTimeout(done, 60))
  }
  throw new Error(`not so: ${JSON.stringify((await api().get(path())).body)}`)
}
const at = (address: string) => (view: ListenView) => view.hits.some((hit) => hit.address === address)

test('who speaks is heard in any subnet, with what it says; who does not run is not', async () => {
  await front('RIO-111', true)
  await front('SC-701', true)
  pass(400)
  app.running.bench.setLaptop({ addresses: [{ address: '10.20.40.5', prefix: 24 }], cable: 'switch', speed: 1 })
  const begun = await api().post(path())
  expect(begun.status).toBe(202)
  const view = await until((each) => at('192.168.66.30')(each) && at('192.168.66.80')(each))
  expect(view.hits.find(({ address }) => address === '192.168.66.30')).toMatchObject({
    by: ['identity'],
    serialNumber: '0B103001',
    firmware: '2.3',
    says: 'RH-8D2A4Q, 2.3, serial number 0B103001',
  })
  expect(view.hits.find(({ address }) => address === '192.168.66.80')).toMatchObject({
    by: ['name'],
    serialNumber: 'S4 7001',
    orderCode: 'SS-1R',
  })
  // In the laptop's own subnet the neighbour table adds the hardware address; drives say nothing of themselves here.
  expect(view.hits.find(({ address }) => address === '10.20.40.70')?.hardwareAddress).toBe('02:5E:0B:10:33:01')
  expect(view.hits.some(({ says }) => says.includes('VD-110'))).toBe(false)
  expect(view.ways.map(({ by, open }) => [by, open])).toEqual([
    ['identity', true],
    ['name', true],
    ['lease', true],
    ['neighbour', true],
  ])
  expect(view).toMatchObject({ state: 'listening', of: 100, refused: 0 })
  expect(view.sent).toBe(view.rounds * 2)
})

test('a second one is refused while it goes on; who asks for a lease is heard before it has an address', async () => {
  expect((await api().post(path())).status).toBe(422)
  await front('SUP-801', true)
  const view = await until((each) => each.hits.some(({ hardwareAddress }) => hardwareAddress === '02:5E:0B:10:80:01'))
  expect(view.hits.find(({ hardwareAddress }) => hardwareAddress === '02:5E:0B:10:80:01')).toMatchObject({
    address: '',
    by: ['lease'],
    says: 'asks for an address, SE-2',
  })
})

test('with the cable straight in one device nobody else is heard any more', async () => {
  await api().delete(path())
  app.running.bench.setLaptop({ addresses: [{ address: '10.20.40.5', prefix: 24 }], cable: 'SC-701', speed: 1 })
  await api().post(path())
  const view = await until(at('192.168.66.80'))
  expect(view.hits.map(({ address }) => address)).toEqual(['192.168.66.80'])
})

test('it ends when it is stopped, keeps what was heard, and is in the log', async () => {
  expect((await api().delete(path())).status).toBe(204)
  const view = (await api().get(path())).body as ListenView
  expect(view).toMatchObject({ state: 'stopped' })
  expect(view.hits.length).toBe(1)
  const log = await api().get(`/api/jobs/${job.id}/log`)
  expect(JSON.stringify(log.body)).toMatch(/Listened \d+ s, asked \d+ times with \d+ datagrams: 1 heard/)
})

test('what is no answer to what was asked is counted, and nobody is shown for it', async () => {
  app.running.bench.setLaptop({ addresses: [{ address: '10.20.40.5', prefix: 24 }], cable: 'nobody', speed: 1 })
  // Whoever answers on the wire with another context answers somebody else.
  const places = app.running.bench.wire.places
  const spy = createSocket('udp4')
  const asked = new Promise<{ readonly port: number }>((done) => spy.once('message', (_message, from) => done(from)))
  await new Promise<void>((done) => spy.bind(0, '127.0.0.1', () => done()))
  Object.assign(places?.identity ?? {}, { host: '127.0.0.1', port: spy.address().port })
  await api().post(path())
  const { port } = await asked
  const foreign = Buffer.alloc(24)
  foreign.writeUInt16LE(0x63, 0)
  spy.send(foreign, port, '127.0.0.1')
  const view = await until(({ refused }) => refused > 0)
  expect(view).toMatchObject({ refused: 1, hits: [] })
  await api().delete(path())
  spy.close()
})

test('a search that is stopped tells what it looked at, and says nothing of the rest', async () => {
  app.running.bench.setLaptop({ addresses: [{ address: '10.20.40.5', prefix: 24 }], cable: 'switch', speed: 1 })
  const search = `/api/jobs/${job.id}/sweep`
  expect((await api().post(search).send({ cidr: '10.20.40.0/24' })).status).toBe(202)
  expect((await api().delete(search)).status).toBe(204)
  let view = { done: false, looked: 0, total: 0, lines: [] as readonly { address: string }[] }
  for (let tries = 0; tries < 60 && !view.done; tries += 1) {
    await new Promise((done) => setTimeout(done, 100))
    view = (await api().get(search)).body as typeof view
  }
  expect(view).toMatchObject({ done: true, total: 254 })
  expect(view.looked).toBeLessThan(254)
  // The last planned address was not come to: it is neither there nor silent.
  expect(view.lines.map(({ address }) => address)).not.toContain('10.20.40.80')
})
