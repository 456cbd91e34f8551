import { noFaults } from '@calm/bench'
import { jobFileOf, readJobFile } from '@calm/contract/jobFile'
import { randomUUID } from 'node:crypto'
import { sayEvidence } from '@calm/core/evidence'
import { blankDevice, blankPoint, blankPort, evidenceAbout, evidenceOf, type Job } from '@calm/core/job'
import { startTestApp, type TestApp } from '../fixtures'

let app: TestApp
let job: Job
beforeAll(async () => {
  app = await startTestApp()
})
afterAll(() => app.stop())
beforeEach(async () => {
  job = await app.job()
})

const deviceNamed = (tag: string) => {
  const found = job.devices.find((each) => each.tag === tag)
  if (!found) throw new Error(tag)
  return found
}
const portOf = (tag: string) => {
  const [port] = deviceNamed(tag).ports
  if (!port) throw new Error(tag)
  return port
}
const meter = () => {
  const found = job.handshakes.find((each) => each.name === 'PLC-101 to EM-501')
  if (!found) throw new Error('no handshake')
  return found
}

/** A change of one row of the job. */
const set = (table: string, row: { readonly id: string; readonly version: number }, fields: object) =>
  app.change(job.id, { op: 'set', table, id: row.id, version: row.version, fields })
const add = (table: string, fields: object, id: string = randomUUID()) => ({ op: 'add', table, id, fields })
const handshakeOf = (controllerId: string, deviceId: string) =>
  add('handshake', { position: 99, name: 'a pair', controllerId, deviceId })

describe('a job', () => {
  test('health says that the server and its bench are there', async () => {
    expect((await app.api.get('/api/health')).body).toMatchObject({ ok: true, bench: true })
  })

  test('begun empty, filled, and removed again', async () => {
    const begun = await app.api.post('/api/jobs').send({ name: 'Test', place: '', mode: 'bench' })
    expect(begun.status).toBe(201)
    const { id } = begun.body
    const network = add('network', {
      name: 'lan',
      cidr: '10.0.0.0/24',
      gateway: null,
      vlan: null,
      dhcp: '',
      reserved: '',
    })
    const device = add('device', { ...blankDevice, position: 1, tag: 'X-1', kind: 'meter', unitId: 1 })
    const port = add('port', { ...blankPort, networkId: network.id, address: '10.0.0.7', deviceId: device.id })
    await app.change(id, network, device, port).expect(204)
    expect((await app.api.get(`/api/jobs/${id}`)).body.devices[0]).toMatchObject({
      tag: 'X-1',
      ports: [{ address: '10.0.0.7' }],
    })
    const twice = await app.change(id, { ...device, id: randomUUID() })
    expect(twice).toMatchObject({
      status: 422,
      body: { problems: [{ what: 'There is a device X-1 already.', where: 'changes[0].fields.tag' }] },
    })
    expect((await app.api.delete(`/api/jobs/${id}`)).status).toBe(204)
    expect((await app.api.get(`/api/jobs/${id}`)).status).toBe(404)
  })

  test('a device is removed and brought back with everything it had', async () => {
    const before = deviceNamed('EM-501')
    await app.change(job.id, { op: 'remove', table: 'device', id: before.id, version: before.version }).expect(204)
    expect((await app.job()).handshakes.some((each) => each.deviceId === before.id)).toBe(false)
    await app.change(job.id, { op: 'restore', table: 'device', id: before.id }).expect(204)
    job = await app.job()
    expect(deviceNamed('EM-501').ports).toEqual(before.ports)
    expect(meter().terms.length).toBeGreaterThan(0)
  })
})

describe('two people on one row', () => {
  test('the second save answers 409 with the row as it is now, and nothing is overwritten', async () => {
    const port = portOf('PD-102')
    await set('port', port, { address: '10.20.40.25' }).expect(204)
    const late = await set('port', port, { address: '10.20.40.26' })
    expect(late).toMatchObject({
      status: 409,
      body: {
        problems: [{ where: 'changes[0].fields.version' }],
        current: { address: '10.20.40.25', version: port.version + 1 },
      },
    })
    job = await app.job()
    expect(portOf('PD-102').address).toBe('10.20.40.25')
  })

  test('a term set for the first time by two people', async () => {
    const handshake = handshakeOf(deviceNamed('PLC-101').id, deviceNamed('BS-701').id)
    const term = (text: string) =>
      add('term', { termId: 'count', end: 'device', text, notation: null, origin: '', handshakeId: handshake.id })
    await app.change(job.id, handshake, term('2')).expect(204)
    expect(await app.change(job.id, term('4'))).toMatchObject({
      status: 422,
      body: { problems: [{ what: 'Count of the device end is written down already.', found: '2' }] },
    })
    const point = add('point', { ...blankPoint('BS-701'), handshakeId: handshake.id })
    await app.change(job.id, point).expect(204)
    const made = (await app.job()).handshakes.find((each) => each.id === handshake.id)
    expect(made).toMatchObject({ terms: [{ text: '2' }], points: [{ tag: 'BS701_Value', asked: true }] })
    await app.change(job.id, { op: 'remove', table: 'handshake', id: handshake.id, version: 1 }).expect(204)
  })
})

describe('bad input: what, where, expected, found; nothing half-saved', () => {
  test.each<[string, object, string, RegExp]>([
    ['address', { address: '10.20.40.256' }, 'address', /above 255/],
    ['address', { address: '010.20.40.4' }, 'address', /leading zeros/],
    ['address', { address: '10.20.40.4/33' }, 'address', /carries a mask/],
    ['address', { address: '' }, 'address', /./],
    ['address', { address: '10.20.40.4:502' }, 'address', /carries a port/],
    ['port', { tcpPort: 70_000 }, 'tcpPort', /65535/],
    ['unknown field', { colour: 'blue' }, 'colour', /no field "colour"/],
    ['wrong kind of value', { tcpPort: '502' }, 'tcpPort', /number/],
  ])('%s %j', async (_what, change, where, reason) => {
    const port = portOf('EM-501')
    const answer = await set('port', port, change)
    expect(answer.status).toBe(400)
    const [problem] = answer.body.problems
    expect(problem.where).toBe(`changes[0].fields.${where}`)
    expect(problem.what).toMatch(reason)
    expect(problem.expected).not.toBe('')
    job = await app.job()
    expect(portOf('EM-501')).toEqual(port)
  })

  test('a likely reading is offered over the wire too', async () => {
    const port = portOf('EM-501')
    const answer = await set('port', port, { address: '010.020.040.022' })
    expect(answer.body.problems[0].offers).toEqual([{ label: 'Use 10.20.40.22', value: '10.20.40.22' }])
  })

  test('unit 248 is reserved', async () => {
    const device = deviceNamed('EM-501')
    const answer = await set('device', device, { unitId: 248 })
    expect(answer.body.problems[0]).toMatchObject({
      where: 'changes[0].fields.unitId',
      what: expect.stringMatching(/reserved/),
    })
  })

  test('several wrong fields are told together', async () => {
    const network = { name: '', cidr: '10.20.40.5/24', gateway: 'x', vlan: 5000, dhcp: '', reserved: '' }
    const answer = await app.change(job.id, add('network', network))
    expect(answer.body.problems.map((problem: { where: string }) => problem.where)).toEqual(
      ['name', 'cidr', 'gateway', 'vlan'].map((field) => `changes[0].fields.${field}`),
    )
  })

  test('a request that is not JSON, one that is too large, one to nowhere', async () => {
    const broken = await app.api.post('/api/jobs').set('content-type', 'application/json').send('{"name": ')
    expect(broken).toMatchObject({ status: 400, body: { problems: [{ what: 'The request is not JSON.' }] } })
    const large = await app.api.post('/api/jobs').send({ name: 'x'.repeat(300_000), place: '', mode: 'bench' })
    expect(large).toMatchObject({ status: 413, body: { problems: [{ expected: 'at most 200 kB' }] } })
    expect((await app.api.get('/api/nothing')).status).toBe(404)
    expect((await app.api.get('/api/jobs/not-an-id')).body.problems[0].what).toBe('There is no such job.')
  })
})

describe('requests from elsewhere', () => {
  test('another host name, or a page of another origin, is not let in', async () => {
    expect((await app.api.get('/api/jobs').set('host', 'evil.example')).status).toBe(403)
    expect((await app.api.post('/api/jobs').set('origin', 'http://evil.example').send({})).status).toBe(403)
    expect((await app.api.get('/api/jobs').set('origin', `http://127.0.0.1:${app.running.port}`)).status).toBe(200)
  })
  test('the content security policy lets in nothing from elsewhere', async () => {
    const policy = (await app.api.get('/api/health')).headers['content-security-policy'] ?? ''
    expect(policy).toMatch(/default-src 'none'/)
    expect(policy).not.toMatch(/unsafe|https?:/)
  })
})

describe('terms and handshakes', () => {
  test.each<[string, object, number, RegExp]>([
    ['a term that is not in the catalogue', { termId: 'colour' }, 400, /none of the known ones/],
    ['an end that is none', { end: 'middle' }, 400, /none of the known ones/],
    ['a term that the line-up holds', { termId: 'address' }, 422, /held by the line-up/],
    ['a term of no handshake', { handshakeId: randomUUID() }, 422, /no such handshake/],
  ])('%s is refused, and the job stays as it was', async (_what, change, status, reason) => {
    const term = { termId: 'scale', end: 'device', text: '1', notation: null, origin: '', handshakeId: meter().id }
    const answer = await app.change(job.id, add('term', { ...term, ...change }))
    expect(answer.status).toBe(status)
    expect(answer.body.problems[0].what).toMatch(reason)
    expect(await app.job()).toEqual(job)
  })

  test('a handshake is removed and brought back with its evidence', async () => {
    const before = job.handshakes.find((each) => each.name.endsWith('FM-202'))!
    const evidence = evidenceOf(job, before)
    expect(evidence.length).toBeGreaterThan(0)
    const { id, version } = before
    await app.change(job.id, { op: 'remove', table: 'handshake', id, version }).expect(204)
    const without = await app.job()
    expect(without.handshakes.some((each) => each.id === id)).toBe(false)
    // What was seen of the device counts for whoever asks it, so it stays.
    expect(without.evidence.length).toBeLessThan(job.evidence.length)
    expect(evidenceAbout(without, before.deviceId)).toEqual(evidenceAbout(job, before.deviceId))
    await app.change(job.id, { op: 'restore', table: 'handshake', id }).expect(204)
    const after = await app.job()
    const back = after.handshakes.find((each) => each.id === id)
    expect(back && evidenceOf(after, back)).toEqual(evidence)
  })

  test('a device has no handshake with itself, nor two with one controller', async () => {
    const [plc, em] = [deviceNamed('PLC-101'), deviceNamed('EM-501')]
    expect(await app.change(job.id, handshakeOf(plc.id, plc.id))).toMatchObject({
      status: 422,
      body: { problems: [{ what: 'Both ends are one device.' }] },
    })
    expect(await app.change(job.id, handshakeOf(plc.id, em.id))).toMatchObject({
      status: 422,
      body: { problems: [{ what: 'PLC-101 and EM-501 have a handshake already.' }] },
    })
  })
})

describe('job files', () => {
  const plain = (made: Job) =>
    JSON.parse(JSON.stringify(made, (key, value) => (/^(id|ids|version)$|Ids?$/.test(key) ? undefined : value)))

  test('import(export(job)) = job', async () => {
    const file = await app.api.get(`/api/jobs/${job.id}/export`)
    expect(file.headers['content-disposition']).toMatch(/heron-mill-hatchery\.job\.json/)
    const taken = await app.api
      .post('/api/jobs/import')
      .set('content-type', 'text/plain')
      .send(JSON.stringify(file.body))
    expect(taken.status).toBe(201)
    // What it proves is kept aside until a lead takes it over; written out again nothing is lost.
    expect(taken.body.evidence).toEqual([])
    const again = await app.api.get(`/api/jobs/${taken.body.id}/export`)
    expect(plain(again.body.job)).toEqual(plain(job))
    // Links hold: the same device is behind the same gateway.
    const behind = (made: Job) =>
      made.devices.map((each) => made.devices.find((other) => other.id === each.behindId)?.tag ?? '-')
    expect(behind(taken.body)).toEqual(behind(job))
    await app.api.delete(`/api/jobs/${taken.body.id}`)
  })

  const good = () => JSON.parse(JSON.stringify(jobFileOf(job, '2026-01-01T00:00:00.000Z')))
  test.each<[string, () => string, string, RegExp]>([
    ['not JSON', () => 'tag;address\nEM-501;10.20.40.50', '', /not JSON/],
    ['another JSON file', () => '{"name": "x"}', 'format', /not a job file/],
    ['a newer version', () => JSON.stringify({ ...good(), version: 99 }), 'version', /newer program/],
    [
      'an unknown field',
      () => JSON.stringify({ ...good(), job: { ...good().job, colour: 1 } }),
      'job.colour',
      /no field "colour"/,
    ],
    [
      'a bad address deep inside',
      () => JSON.stringify(good()).replace('"10.20.40.50","prefix"', '"10.20.40.256","prefix"'),
      'job.devices[10].ports[0].address',
      /above 255/,
    ],
    [
      'a link to nowhere',
      () => JSON.stringify({ ...good(), job: { ...good().job, networks: [] } }),
      'job.devices[0].ports[0].networkId',
      /no network with this id/,
    ],
    ['nothing', () => '', '', /not JSON/],
  ])('%s: every problem with its path, and nothing changes', async (_what, text, where, reason) => {
    const before = await app.jobs()
    const answer = await app.api.post('/api/jobs/import').set('content-type', 'text/plain').send(text())
    expect(answer.status).toBe(422)
    expect(answer.body.problems[0].where).toBe(where)
    expect(answer.body.problems[0].what).toMatch(reason)
    expect(await app.jobs()).toEqual(before)
  })

  test('a file of 50 MB is refused before it is read', async () => {
    const answer = await app.api
      .post('/api/jobs/import')
      .set('content-type', 'text/plain')
      .send('x'.repeat(50 * 1024 * 1024))
    expect(answer).toMatchObject({ status: 413, body: { problems: [{ found: '50.0 MB' }] } })
  })

  test('a problem list names every wrong field of a file', () => {
    const file = good()
    file.job.devices[0].unitId = 300
    file.job.networks[0].cidr = 'x'
    const reading = readJobFile(JSON.stringify(file))
    expect(!reading.ok && reading.problems.map((problem) => problem.where)).toEqual([
      'job.networks[0].cidr',
      'job.devices[0].unitId',
    ])
  })
})

describe('evidence', () => {
  test('the meter is reached, says what it is, and that is recorded', async () => {
    const report = await app.api.post(`/api/handshakes/${meter().id}/reach`)
    expect(report.body).toMatchObject({ reached: true, mode: 'bench', asked: '10.20.40.50:502, unit 1' })
    expect(report.body.identity).toContainEqual({ name: 'model name', text: 'EM-501' })
    job = await app.job()
    expect(job.evidence.at(-1)).toMatchObject({
      subject: { kind: 'device', id: meter().deviceId },
      rung: 'reached',
      verdict: 'proven',
      how: 'read-live',
      mode: 'bench',
    })
  })

  test('a silent device is recorded as at odds, with what was seen', async () => {
    app.running.bench.setFaults('EM-501', { ...noFaults, silent: true })
    const report = await app.api.post(`/api/handshakes/${meter().id}/reach`)
    app.running.bench.setFaults('EM-501', noFaults)
    expect(report.body).toMatchObject({
      reached: false,
      steps: [
        { step: 'Connection', ok: true },
        { step: 'Unit 1', ok: false },
      ],
    })
    job = await app.job()
    expect(job.evidence.at(-1)).toMatchObject({ verdict: 'at-odds' })
    expect(sayEvidence(job.evidence.at(-1)?.facts ?? [])).toMatch(/Nothing answered within 1000 ms/)
  })

  test('an exception is an answer: the device is there', async () => {
    app.running.bench.setFaults('EM-501', { ...noFaults, exception2: true })
    const report = await app.api.post(`/api/handshakes/${meter().id}/reach`)
    app.running.bench.setFaults('EM-501', noFaults)
    expect(report.body).toMatchObject({
      reached: true,
      steps: [{}, { what: expect.stringMatching(/exception 2, illegal data address/) }, {}],
    })
  })

  test('terms at odds cannot be confirmed as agreed', async () => {
    const answer = await app.api.post(`/api/handshakes/${meter().id}/agreed`)
    expect(answer).toMatchObject({
      status: 422,
      body: { problems: [{ what: 'Not every term agrees: word order.', found: '9 of 10' }] },
    })
  })

  test('a reading cannot be recorded by word of mouth, and a made-up reading is not known', async () => {
    const spoken = await app.api
      .post(`/api/handshakes/${meter().id}/evidence`)
      .send({ rung: 'reading', verdict: 'proven', how: 'seen', value: 'looked right' })
    expect(spoken.status).toBe(400)
    const invented = await app.api.post(`/api/handshakes/${meter().id}/reading`).send({
      pointId: meter().points[0]?.id,
      deviceReading: 999_999,
      controllerReading: 999_998,
      controllerTyped: null,
      shownTyped: null,
      typedAt: 0,
    })
    expect(invented.body).toMatchObject({ problems: [{ where: 'deviceReading' }] })
  })

  test('hand-over stays shut while a value is forced', async () => {
    const answer = await app.api
      .post(`/api/handshakes/${meter().id}/evidence`)
      .send({ rung: 'handed-over', verdict: 'proven', how: 'seen', value: 'signed' })
    expect(answer).toMatchObject({
      status: 422,
      body: {
        problems: [{ what: expect.stringMatching(/2 values are forced\. Release first\. Hand-over stays shut/) }],
      },
    })
  })

  test('parking needs a reason', async () => {
    const park = (reason: string) =>
      app.api.post(`/api/handshakes/${meter().id}/decisions`).send({ rung: 'survives', state: 'parked', reason })
    expect((await park('')).status).toBe(400)
    expect((await park('plant runs until Friday')).status).toBe(201)
  })
})

describe('the record', () => {
  test('as JSON and as CSV; a cell that a spreadsheet would run is made harmless', async () => {
    const device = deviceNamed('SC-701')
    await set('device', device, { tag: '=1+1' }).expect(204)
    const begun = handshakeOf(deviceNamed('PLC-101').id, device.id)
    await app.change(job.id, { ...begun, fields: { ...begun.fields, name: 'PLC-101 to =1+1' } }).expect(204)
    const record = (await app.api.get(`/api/jobs/${job.id}/record.json`)).body
    expect(record).toMatchObject({ format: 'calm-handshake-record', readyToHandOver: false })
    const csv = (await app.api.get(`/api/jobs/${job.id}/record.csv`)).text
    expect(csv.split('\r\n')[0]).toContain('part,what,rung,state')
    expect(csv).toContain('PLC-101 to =1+1,Safe')
    expect(csv).not.toMatch(/(^|[,\n])[=+@]/)
  })
})
