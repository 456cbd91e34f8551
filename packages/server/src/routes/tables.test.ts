import { randomUUID } from 'node:crypto'
import type { Job } from '@calm/core/job'
import { startTestApp, type TestApp } from '../fixtures'
import { workbookOf } from '../tables'

let app: TestApp
let job: Job
beforeAll(async () => {
  app = await startTestApp()
})
afterAll(() => app.stop())
beforeEach(async () => {
  job = await app.job()
})

/** The body of a download as bytes; the client would take them for text. */
const bytesOf = async (path: string) => {
  const answer = await app.api
    .get(path)
    .buffer(true)
    .parse((response, done) => {
      const parts: Buffer[] = []
      response.on('data', (part: Buffer) => parts.push(part))
      response.on('end', () => done(null, Buffer.concat(parts)))
    })
  return { status: answer.status, headers: answer.headers, bytes: answer.body as Buffer }
}

describe('tables out', () => {
  test('CSV with its mark, and a name that says what it is', async () => {
    const { headers, bytes } = await bytesOf(`/api/jobs/${job.id}/devices.csv`)
    expect(headers['content-disposition']).toMatch(/heron-mill-hatchery-devices\.csv/)
    expect(headers['content-type']).toMatch(/text\/csv; charset=utf-8/)
    expect([...bytes.subarray(0, 3)]).toEqual([0xef, 0xbb, 0xbf])
    const lines = bytes.toString('utf8').trimEnd().split('\r\n')
    expect(lines).toHaveLength(job.devices.length + 1)
    expect(lines[0]).toMatch(/^\ufeffTag,What it is,Kind,/)
  })

  test('XLSX, which the server reads back', async () => {
    const { headers, bytes } = await bytesOf(`/api/jobs/${job.id}/devices.xlsx`)
    expect(headers['content-type']).toMatch(/spreadsheetml\.sheet/)
    const answer = await app.api.post('/api/tables/read').set('content-type', 'application/octet-stream').send(bytes)
    expect(answer.body.sheets.map((sheet: { name: string }) => sheet.name)).toEqual(['Devices', 'Networks'])
    expect(answer.body.sheets[0].rows[1][0]).toBe('PLC-101')
  })

  test('points and requests of a handshake as a workbook, which the server reads back', async () => {
    const handshake = job.handshakes.find(({ name }) => name === 'PLC-101 to EM-501')
    const { headers, bytes } = await bytesOf(`/api/handshakes/${handshake?.id}/points.xlsx`)
    expect(headers['content-disposition']).toMatch(/em-501-points\.xlsx/)
    const answer = await app.api.post('/api/tables/read').set('content-type', 'application/octet-stream').send(bytes)
    const [points, requests] = answer.body.sheets as { name: string; rows: string[][] }[]
    expect([points?.name, requests?.name]).toEqual(['Points', 'Requests'])
    expect(points?.rows[0]?.slice(0, 3)).toEqual(['Quantity', 'Register', 'Type'])
    expect(points?.rows.slice(1).map(([quantity]) => quantity)).toEqual(
      handshake?.points.map(({ quantity }) => quantity),
    )
    expect(requests?.rows).toHaveLength(2)
    const none = await app.api.get(`/api/handshakes/${job.id}/points.xlsx`)
    expect(none.status).toBe(404)
  })

  test('reservations in each format; a format that is none is refused', async () => {
    for (const [format, says] of [
      ['csv', 'SUP-801,sup-801,02:5E:0B:80:01:2C'],
      ['dhcpd', 'host sup-801 {'],
      ['kea', '"hw-address": "02:5e:0b:80:01:2c"'],
      ['dnsmasq', 'dhcp-host=02:5e:0b:80:01:2c,10.20.41.200,sup-801'],
    ]) {
      const { bytes } = await bytesOf(`/api/jobs/${job.id}/reservations/${format}`)
      expect(bytes.toString('utf8')).toContain(says)
    }
    const none = await app.api.get(`/api/jobs/${job.id}/reservations/toString`)
    expect(none).toMatchObject({ status: 422, body: { problems: [{ where: 'format', found: 'toString' }] } })
  })

  test('of a job that is not there', async () => {
    expect((await app.api.get(`/api/jobs/${randomUUID()}/devices.csv`)).status).toBe(404)
  })
})

describe('a workbook in', () => {
  const send = (body: Buffer | string) =>
    app.api.post('/api/tables/read').set('content-type', 'application/octet-stream').send(body)

  test('texts stay texts: a serial number keeps its zeros, an address its points', async () => {
    const book = await workbookOf([{ name: 'List', head: ['Tag', 'Serial', 'IP'], rows: [['X', '00420', '10.20']] }])
    expect((await send(book)).body.sheets[0].rows[1]).toEqual(['X', '00420', '10.20'])
  })

  test('what is none, and what is too large, is told and not taken', async () => {
    expect(await send('Tag;IP')).toMatchObject({
      status: 422,
      body: { problems: [{ what: 'This is not an XLSX workbook.' }] },
    })
    expect((await send(Buffer.alloc(11 * 1024 * 1024))).status).toBe(413)
  })
})

describe('changes as a list', () => {
  const send = (changes: unknown) => app.api.post(`/api/jobs/${job.id}/changes`).send({ changes })
  const meter = () => {
    const found = job.devices.find((device) => device.tag === 'EM-501')
    if (!found) throw new Error('no meter')
    return found
  }

  test('several rows in one go, and the log says so', async () => {
    const device = meter()
    const [port] = device.ports
    const answer = await send([
      {
        op: 'set',
        table: 'device',
        id: device.id,
        version: device.version,
        fields: { place: 'panel 9', orderCode: 'PM' },
      },
      { op: 'set', table: 'port', id: port?.id, version: port?.version, fields: { mac: '02-5e-0b-50-01-3a' } },
    ])
    expect(answer.status).toBe(204)
    job = await app.job()
    expect(meter()).toMatchObject({ place: 'panel 9', orderCode: 'PM', ports: [{ mac: '02:5E:0B:50:01:3A' }] })
    const log = (await app.api.get(`/api/jobs/${job.id}/log`)).body
    expect(log.whole).toBe(true)
    expect(log.entries.slice(-2).map((entry: { what: string }) => entry.what)).toEqual([
      'Device EM-501: place: panel 3 -> panel 9, order code: PM-3C-E -> PM',
      'Device EM-501, port Ethernet: MAC address: blank -> 02:5E:0B:50:01:3A',
    ])
  })

  test('two people on one row: the second answers 409 with the row as it is, and nothing of the list is done', async () => {
    const device = meter()
    const set = (version: number, place: string) => ({
      op: 'set',
      table: 'device',
      id: device.id,
      version,
      fields: { place },
    })
    expect((await send([set(device.version, 'first')])).status).toBe(204)
    const other = job.devices.find((each) => each.tag === 'PD-101')
    const second = await send([
      { op: 'set', table: 'device', id: other?.id, version: other?.version, fields: { place: 'half' } },
      set(device.version, 'second'),
    ])
    expect(second).toMatchObject({ status: 409, body: { current: { place: 'first' } } })
    job = await app.job()
    expect(meter().place).toBe('first')
    expect(job.devices.find((each) => each.tag === 'PD-101')?.place).toBe('panel 2')
  })

  test('fields that are none, values that are none, are told with their path and change nothing', async () => {
    const device = meter()
    const answer = await send([
      { op: 'set', table: 'device', id: device.id, version: device.version, fields: { colour: 1 } },
      {
        op: 'set',
        table: 'device',
        id: device.id,
        version: device.version,
        fields: { setting: 'magic', startUpSeconds: -1 },
      },
      {
        op: 'add',
        table: 'line',
        id: randomUUID(),
        fields: { name: 'x', medium: 'string', family: 'hex', settings: '' },
      },
    ])
    expect(answer.status).toBe(400)
    expect(answer.body.problems.map((problem: { where: string }) => problem.where)).toEqual([
      'changes[0].fields.colour',
      'changes[1].fields.setting',
      'changes[1].fields.startUpSeconds',
      'changes[2].fields.medium',
      'changes[2].fields.family',
    ])
    expect((await app.job()).version).toBe(job.version)
  })

  test('an accepted finding carries who and when, from the server', async () => {
    const [port] = meter().ports
    const fields = { rule: 'address.duplicate', subjectId: port?.id, found: '10.20.40.50', reason: 'until Friday' }
    expect((await send([{ op: 'add', table: 'acceptance', id: randomUUID(), fields }])).status).toBe(204)
    const [made] = (await app.job()).acceptances
    expect(made).toMatchObject({ reason: 'until Friday', version: 1 })
    expect(made?.who).not.toBe('')
    expect(made?.at).toBeGreaterThan(1_700_000_000_000)
    const record = (await app.api.get(`/api/jobs/${job.id}/record.json`)).body
    expect(record.letStand).toMatchObject([{ rule: 'address.duplicate', reason: 'until Friday' }])
  })

  test('a kind of the job’s own: used, then kept from being twice', async () => {
    const facts = {
      id: 'own-meter',
      name: 'Own meter',
      role: 'meter',
      block: [50, 59],
      notApplying: [],
      defaultAddress: { kind: 'none' },
      defaultNode: null,
      setting: 'keypad',
      effective: 'at-once',
      startUpSeconds: 5,
      handsOnSeconds: 60,
      lamps: [],
      sockets: [],
      limits: [],
      beforePower: [],
    }
    const add = () => send([{ op: 'add', table: 'kind', id: randomUUID(), fields: { facts } }])
    expect((await add()).status).toBe(204)
    job = await app.job()
    const device = meter()
    const use = await send([
      { op: 'set', table: 'device', id: device.id, version: device.version, fields: { kind: 'own-meter' } },
    ])
    expect(use.status).toBe(204)
    expect(await add()).toMatchObject({
      status: 422,
      body: { problems: [{ what: 'There is a kind own-meter already.' }] },
    })
  })
})
