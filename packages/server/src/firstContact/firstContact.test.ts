import { parseLinuxTable, parseArpList } from '../laptop/state'
import { spawn } from 'node:child_process'
import { openSerial, Transcript, type Transport } from '../console'
import { serialProblem, serialSettings } from '../serial'
import { startTestApp, type TestApp } from '../fixtures/testApp'
import { sayEvidenceInFull } from '@calm/core/evidence'
import { evidenceAbout, type Job } from '@calm/core/job'
import { bringUpJobOf, planWalk, shippedRuns, walkOf, type Stop, type WalkRecord } from '@calm/core/procedure'
import { runFileOf } from '@calm/contract/runFile'
import { WebSocket } from 'ws'

jest.setTimeout(60_000)

let app: TestApp
let job: Job
beforeAll(async () => {
  app = await startTestApp()
  job = await app.job('First contact rehearsal')
  await app.api
    .put('/api/bench-laptop')
    .send({ addresses: [{ address: '10.20.40.5', prefix: 24 }], cable: 'switch', speed: 100 })
  const record = await walk()
  const plan = planWalk(bringUpJobOf(job, record, []), [], [], 1)
  if (!('answer' in plan)) throw new Error('no order')
  await send('put', 'walk/order', { version: record.version, order: plan.answer.actions }).expect(204)
})
afterAll(() => app.stop())

const send = (method: 'post' | 'put', path: string, body: object) =>
  app.api[method](`/api/jobs/${job.id}/${path}`).send(body)
const walk = async (): Promise<WalkRecord> => (await app.api.get(`/api/jobs/${job.id}/walk`)).body
const stops = async (): Promise<readonly Stop[]> => {
  const record = await walk()
  const now = await app.job('First contact rehearsal')
  return walkOf(now, record, record.order, bringUpJobOf(now, record, []))
}
const stepOf = async (title: RegExp, id: string) => {
  const stop = (await stops()).find((each) => title.test(each.title))
  const step = stop?.steps.find((each) => each.step.id === id)
  if (!step) throw new Error(`${title} ${id}`)
  return step
}
const say = (stepKey: string, state: string, note: string, seen = 0) =>
  send('post', 'walk/steps', { stepKey, state, note, seen })
const front = (tag: string, act: object) => app.api.post(`/api/bench-fronts/${tag}`).send(act)
const pause = (milliseconds: number) => new Promise((done) => setTimeout(done, milliseconds))
const until = async (holds: () => Promise<boolean>, what: string) => {
  for (let tries = 0; tries < 150; tries += 1) {
    if (await holds()) return
    await pause(100)
  }
  throw new Error(`It did not come to: ${what}`)
}

describe('steps', () => {
  test('what protects people holds back what comes after, and is overridden only with a reason, which the log has', async () => {
    const on = await stepOf(/^Put Q11 on/, 'on')
    const held = await say(on.key, 'done', '').expect(422)
    expect(held.body.problems[0].what).toContain('it protects people')
    const caution = await stepOf(/^Put Q11 on/, 'may-move')
    const bare = await say(caution.key, 'overridden', '').expect(422)
    expect(bare.body.problems[0]).toMatchObject({ what: 'The reason is missing.' })
    await say(caution.key, 'overridden', 'motor not coupled yet').expect(204)
    const log = await app.api.get(`/api/jobs/${job.id}/log`)
    expect(JSON.stringify(log.body.entries)).toContain('motor not coupled yet')
  })

  test('what the program checks itself cannot be ticked', async () => {
    const step = await stepOf(/^Find MH-510/, 'find-again')
    const answer = await say(step.key, 'done', '').expect(422)
    expect(answer.body.problems[0].what).toBe('This is checked, not ticked.')
  })

  test('a stretch is ticked at once, but never what protects', async () => {
    const stop = (await stops()).find((each) => each.title.startsWith('Put Q12 on'))
    const blocking = stop?.steps.filter((step) => step.blocks).map((step) => step.key) ?? []
    const refused = await send('post', 'walk/stretch', { stepKeys: blocking, state: 'done', note: '' }).expect(422)
    expect(refused.body.problems[0].expected).toBe('steps that protect nobody')
    for (const key of blocking) {
      const step = stop?.steps.find((each) => each.key === key)
      await say(key, 'done', step?.step.kind === 'record' ? 'x' : '').expect(204)
    }
    const sheet = (await stops())
      .find((each) => each.title.startsWith('Put Q12 on'))
      ?.steps.filter((step) => step.step.kind === 'prepare' && !step.record)
      .map((step) => step.key)
    await send('post', 'walk/stretch', { stepKeys: sheet, state: 'done', note: 'All as drawn.' }).expect(204)
    expect((await walk()).steps.filter((step) => step.note === 'All as drawn.')).toHaveLength(sheet?.length ?? -1)
  })

  test('two people on one step: the second is told who was there', async () => {
    const step = await stepOf(/^Put Q5 on/, 'isolate')
    await say(step.key, 'done', '').expect(204)
    const second = await say(step.key, 'done', '').expect(409)
    expect(second.body.problems[0].what).toMatch(/was at this step meanwhile/)
    await say(step.key, 'done', '', 1).expect(204)
  })

  test('a step that is not there, a note that cannot be read, nothing chosen', async () => {
    await say('nowhere / nothing', 'done', '').expect(404)
    const lane = shippedRuns.find((run) => run.id === 'serial-menu')?.steps.find((step) => step.kind === 'decide')
    const decide = await stepOf(/^Set UPS-401/, lane?.id ?? '')
    const answer = await say(decide.key, 'done', 'perhaps').expect(422)
    expect(answer.body.problems[0]).toMatchObject({ what: 'Nothing is chosen.', expected: 'Fixed or Reservation' })
  })

  test('a run for another kind is refused, with what it is for', async () => {
    const record = await walk()
    const device = job.devices.find((each) => each.tag === 'PD-101')
    const settings = { ...record.settings, runs: { [device?.id ?? '']: 'supervisory-swap' } }
    const answer = await send('put', 'walk/settings', { version: record.version, settings }).expect(422)
    expect(answer.body.problems[0]).toMatchObject({
      what: '"Supervisory controller swap" is not for PD-101.',
      expected: 'a device of kind supervisor',
      found: 'drive',
    })
  })

  test('somebody else’s order or settings are not overwritten', async () => {
    const record = await walk()
    const stale = await send('put', 'walk/settings', { version: record.version - 1, settings: record.settings }).expect(
      409,
    )
    expect(stale.body.problems[0].what).toBe('Somebody else changed the order meanwhile.')
  })
})

describe('waits', () => {
  test('a device that comes back rings, is settled by itself, and teaches how long it takes', async () => {
    await front('MH-510', { act: 'power', on: true }).expect(200)
    const step = await stepOf(/^Put Q3 on/, 'starts')
    const early = await send('post', 'walk/wait', { stepKey: step.key }).expect(422)
    expect(early.body.problems[0].what).toContain('comes before this')
    const stop = (await stops()).find((each) => each.title.startsWith('Put Q3 on'))
    for (const each of stop?.steps.filter((one) => one.blocks) ?? []) await say(each.key, 'done', '').expect(204)
    const back = performance.now()
    await send('post', 'walk/wait', { stepKey: step.key }).expect(202)
    await until(
      async () => (await walk()).steps.some((each) => each.stepKey === step.key && each.state === 'done'),
      'done',
    )
    expect(performance.now() - back).toBeLessThan(5_000)
    const record = await walk()
    expect(record.steps.find((each) => each.stepKey === step.key)?.note).toMatch(/^Back at 10\.20\.40\.55 after/)
    expect(record.facts.some((fact) => fact.setting === 'start-up, bench' && fact.standing === 'verified')).toBe(true)
  })

  test('a device that never answers is missing only after its time and several tries', async () => {
    const step = await stepOf(/^Put Q3 on/, 'starts')
    await send('post', 'walk/reopen', { stepKey: step.key }).expect(204)
    await front('MH-510', { act: 'power', on: false }).expect(200)
    await send('post', 'walk/wait', { stepKey: step.key }).expect(202)
    await pause(2_500)
    expect((await walk()).steps.find((each) => each.stepKey === step.key)?.state).toBe('waiting')
    await until(
      async () => (await walk()).steps.some((each) => each.stepKey === step.key && each.state === 'unexpected'),
      'missing',
    )
    expect((await walk()).steps.find((each) => each.stepKey === step.key)?.note).toMatch(
      /^Missing\. Nothing answers at 10\.20\.40\.55 after \d+ s and 5 tries/,
    )
    await front('MH-510', { act: 'power', on: true }).expect(200)
  })

  test('only a step that waits can be waited for', async () => {
    const step = await stepOf(/^Put Q3 on/, 'isolate')
    await send('post', 'walk/wait', { stepKey: step.key }).expect(422)
  })
})

describe('who is there', () => {
  const sweep = async (cidr: string) => {
    await send('post', 'sweep', { cidr }).expect(202)
    await until(async () => (await app.api.get(`/api/jobs/${job.id}/sweep`)).body?.done === true, 'search done')
    return (await app.api.get(`/api/jobs/${job.id}/sweep`)).body
  }

  test('a search stays inside the networks of the job, and is bounded', async () => {
    const out = await send('post', 'sweep', { cidr: '172.16.0.0/24' }).expect(422)
    expect(out.body.problems[0].what).toBe('A search stays inside the networks of the job.')
    await send('post', 'sweep', { cidr: '10.20.40.0/33' }).expect(422)
  })

  test('finds who answers, who is silent, and counts its packets', async () => {
    const found = await sweep('10.20.40.0/24')
    const verdict = (address: string) =>
      found.lines.find((line: { address: string }) => line.address === address)?.verdict
    expect(found.total).toBe(254)
    expect(verdict('10.20.40.10')).toBe('expected')
    expect(verdict('10.20.40.21')).toBe('silent')
    // The meter of the other job stands on the same bench: nobody planned it here.
    expect(verdict('10.20.40.50')).toBe('unknown')
    expect(found.packetsPerSecond).toBeLessThanOrEqual(260)
  })

  test('two with one address show as two identities; pulling one plug leaves the other', async () => {
    await app.api
      .put('/api/bench-laptop')
      .send({ addresses: [{ address: '192.168.1.5', prefix: 24 }], cable: 'switch', speed: 100 })
    for (const tag of ['PD-101', 'PD-102']) await front(tag, { act: 'power', on: true }).expect(200)
    await pause(600)
    const probe = async () => (await send('post', 'probe', { address: '192.168.1.20', port: 502, deviceId: null })).body
    await until(async () => (await probe()).identities.length === 2, 'two identities')
    await front('PD-102', { act: 'plug', on: false }).expect(200)
    await pause(300)
    expect((await probe()).identities).toEqual([expect.stringContaining('PD-101')])
    // The cable straight in the unplugged one hears nobody at all, straight in the other hears that one.
    await app.api
      .put('/api/bench-laptop')
      .send({ addresses: [{ address: '192.168.1.5', prefix: 24 }], cable: 'PD-102', speed: 100 })
    expect((await probe()).answers).toBe(false)
    await app.api
      .put('/api/bench-laptop')
      .send({ addresses: [{ address: '192.168.1.5', prefix: 24 }], cable: 'PD-101', speed: 100 })
    expect((await probe()).answers).toBe(true)
    const nobody = await app.api.put('/api/bench-laptop').send({ addresses: [], cable: 'XY-1', speed: 100 }).expect(422)
    expect(nobody.body.problems[0].found).toBe('XY-1')
    await app.api
      .put('/api/bench-laptop')
      .send({ addresses: [{ address: '10.20.40.5', prefix: 24 }], cable: 'switch', speed: 100 })
  })

  test('why nothing answers is walked with what the laptop sees', async () => {
    const causes = (await send('post', 'nothing-answers', { address: '192.168.1.20', port: 502, deviceId: null })).body
    expect(causes.filter((cause: { verdict: string }) => cause.verdict === 'likely')[0]).toMatchObject({ id: 'subnet' })
  })

  test('a neighbour table in its three forms', () => {
    const linux =
      'IP address       HW type     Flags       HW address            Mask     Device\n10.0.0.1         0x1         0x2         02:5e:0b:01:02:03     *        eth0\n'
    expect(parseLinuxTable(linux)).toEqual([
      { address: '10.0.0.1', hardwareAddress: '02:5E:0B:01:02:03', adapter: 'eth0' },
    ])
    expect(parseArpList('? (10.0.0.1) at 2:5e:b:1:2:3 on en0 ifscope [ethernet]')).toEqual([
      { address: '10.0.0.1', hardwareAddress: '02:5E:0B:01:02:03', adapter: 'en0' },
    ])
    expect(parseArpList('Interface: 10.0.0.5 --- 0x3\r\n  10.0.0.1    02-5e-0b-01-02-03   dynamic')).toEqual([
      { address: '10.0.0.1', hardwareAddress: '02:5E:0B:01:02:03', adapter: '10.0.0.5' },
    ])
  })
})

describe('what the walk proves', () => {
  test('lamps seen and cautions read are evidence for every handshake of the device', async () => {
    const mill = await app.job()
    const at = `/api/jobs/${mill.id}`
    const record: WalkRecord = (await app.api.get(`${at}/walk`)).body
    const given = bringUpJobOf(mill, record, [])
    const plan = planWalk(given, [], [], 1)
    if (!('answer' in plan)) throw new Error('no order')
    await app.api.put(`${at}/walk/order`).send({ version: record.version, order: plan.answer.actions }).expect(204)
    const stop = walkOf(mill, record, plan.answer.actions, given).find((each) => each.title.startsWith('Put Q12 on'))
    for (const step of stop?.steps ?? []) {
      if (step.step.kind !== 'caution' && step.step.kind !== 'expect' && !step.blocks) continue
      await app.api.post(`${at}/walk/steps`).send({ stepKey: step.key, state: 'done', note: '', seen: 0 }).expect(204)
    }
    const now = await app.job()
    const drive = now.devices.find((each) => each.tag === 'PD-102')
    const evidence = evidenceAbout(now, drive?.id ?? '')
    const walked = evidence.filter((each) => sayEvidenceInFull(each.facts)[1]?.startsWith('First contact'))
    expect(walked.map((each) => each.rung)).toEqual(['safe', 'powered'])
  })

  test('hand-over stays shut while something temporary is not back', async () => {
    const mill = await app.job()
    for (const forced of mill.forced.filter((each) => each.releasedAt === null))
      await app.api.post(`/api/forced/${forced.id}/release`).send({ version: forced.version }).expect(204)
    const made = await app.api
      .post(`/api/jobs/${mill.id}/temporary`)
      .send({ what: 'Bypass of LS-1', putBack: 'Out.' })
      .expect(201)
    const [handshake] = mill.handshakes
    const evidence = { rung: 'handed-over', verdict: 'proven', how: 'seen', value: 'Signed.' }
    const refused = await app.api.post(`/api/handshakes/${handshake?.id}/evidence`).send(evidence).expect(422)
    expect(refused.body.problems[0].what).toContain('Not back yet: Bypass of LS-1.')
    await app.api.post(`/api/temporary/${made.body.id}/back`).send({ version: 1 }).expect(204)
    // Nothing is left, and rungs are open still: signed is what was seen.
    const open = await app.api.post(`/api/handshakes/${handshake?.id}/evidence`).send(evidence).expect(422)
    expect(open.body.problems[0].what).toMatch(/^Not proven yet: .*Survives \(not started\)/)
    for (const rung of ['safe', 'powered', 'reached', 'agreed', 'reading', 'writing', 'survives', 'secured'])
      await app.api
        .post(`/api/handshakes/${handshake?.id}/decisions`)
        .send({ rung, state: 'parked', reason: 'the plant runs until Friday' })
        .expect(201)
    await app.api.post(`/api/handshakes/${handshake?.id}/evidence`).send(evidence).expect(201)
  })
})

describe('temporary things and runs', () => {
  test('count until somebody has seen them back, once', async () => {
    const made = await send('post', 'temporary', { what: 'Key of PLC-101 in program', putBack: 'Back to run.' }).expect(
      201,
    )
    const thing = (await walk()).temporary.find((each) => each.id === made.body.id)
    expect(thing).toMatchObject({ backAt: null })
    await app.api.post(`/api/temporary/${made.body.id}/back`).send({ version: 1 }).expect(204)
    const again = await app.api.post(`/api/temporary/${made.body.id}/back`).send({ version: 1 }).expect(409)
    expect(again.body.problems[0].what).toMatch(/saw it back already/)
  })

  const file = (change: (run: { steps: Record<string, unknown>[] } & Record<string, unknown>) => void) => {
    const run = { ...structuredClone(shippedRuns[0]), id: 'own-run' } as unknown as Parameters<typeof change>[0]
    change(run)
    return JSON.stringify(runFileOf([run as never]))
  }
  const take = (text: string) =>
    app.api.post(`/api/jobs/${job.id}/runs/import`).set('content-type', 'text/plain').send(text)

  test.each([
    ['an unknown kind of step', file((run) => ((run.steps[0] ?? {}).kind = 'pray')), /none of the known ones/],
    ['a field that no job has', file((run) => ((run.steps[0] ?? {}).say = 'Ask {oracle}')), /There is no field oracle/],
    [
      'an act without a caution',
      file((run) => (run.steps = [{ id: 'a', phase: 'set', kind: 'do', say: 'Write', acts: ['writes'] }])),
      /no caution before it/,
    ],
    [
      'a wait without a time',
      file((run) => (run.steps = [{ id: 'a', phase: 'set', kind: 'wait', say: 'Wait' }])),
      /has no seconds/,
    ],
    ['the id of a run that ships', file((run) => (run.id = 'web-page')), /belongs to a run that ships/],
    ['no JSON', '{', /not JSON/],
  ])('a file of runs with %s is refused with its place, and nothing is taken', async (_words, text, what) => {
    const answer = await take(text).expect(422)
    expect(answer.body.problems[0].what).toMatch(what)
    expect((await walk()).runs).toEqual([])
  })

  test('a good one is taken, once', async () => {
    await take(file(() => undefined)).expect(201)
    expect((await walk()).runs.map((run) => run.facts.id)).toEqual(['own-run'])
    await take(file(() => undefined)).expect(422)
  })
})

describe('the console', () => {
  test('the menu is talked to over a socket, and its text is kept with the password masked', async () => {
    await front('UPS-401', { act: 'power', on: true }).expect(200)
    await pause(1_800)
    const web = new WebSocket(`ws://127.0.0.1:${app.running.port}/api/jobs/${job.id}/console?via=bench:UPS-401`, {
      origin: `http://127.0.0.1:${app.running.port}`,
    })
    let seen = ''
    web.on('message', (data) => {
      const message = JSON.parse(String(data))
      if (message.kind === 'text') seen += message.text
    })
    await new Promise((done) => web.once('open', done))
    await pause(200)
    for (const [line, wanted] of [
      ['', 'user:'],
      ['admin', 'password:'],
      ['hunter2', 'choice:'],
      ['7', 'not in the menu'],
    ] as const) {
      web.send(JSON.stringify({ kind: 'type', text: `${line}\r` }))
      await until(async () => seen.includes(wanted), wanted)
    }
    web.close()
    await until(
      async () =>
        (await app.api.get(`/api/jobs/${job.id}/keepsakes`)).body.some(
          (each: { kind: string }) => each.kind === 'console',
        ),
      'kept',
    )
    const [head] = (await app.api.get(`/api/jobs/${job.id}/keepsakes`)).body.filter(
      (each: { kind: string }) => each.kind === 'console',
    )
    const kept = (await app.api.get(`/api/jobs/${job.id}/keepsakes/${head.id}`)).body.content.text
    expect(kept).toContain('user: admin')
    expect(kept).toContain('password: •••••••')
    expect(JSON.stringify(kept)).not.toContain('hunter2')
  })

  const problemOf = (via: string, origin = `http://127.0.0.1:${app.running.port}`) =>
    new Promise<string>((done) => {
      const web = new WebSocket(
        `ws://127.0.0.1:${app.running.port}/api/jobs/${job.id}/console?via=${encodeURIComponent(via)}`,
        { origin },
      )
      web.on('message', (data) => done(JSON.parse(String(data)).problem?.what ?? String(data)))
      web.on('error', (error) => done(error.message))
    })

  test.each([
    ['tcp:8.8.8.8:23', /to a device of this job only/],
    ['serial:/dev/ttyUSB0:9600 8X1', /not the setting of a line/],
    ['serial:/dev/ttyUSB0:9600 8N1', /On the bench no real port/],
    ['bench:XY-1', /no serial socket of that name/],
    ['carrier pigeon', /not a way to a console/],
  ])('%s is refused with a reason', async (via, what) => {
    expect(await problemOf(via)).toMatch(what)
  })

  test('a page from elsewhere gets no console', async () => {
    expect(await problemOf('bench:UPS-401', 'http://elsewhere.example')).toMatch(/403/)
  })

  test.each([
    ['Error: No such file or directory, cannot open /dev/ttyUSB7', /There is no serial port/],
    ['Error Resource temporarily unavailable Cannot lock port', /in use by another program/],
    ['Error: Permission denied, cannot open /dev/ttyUSB0', /may not open/],
  ])('a serial port that does not open: %s', (message, what) => {
    expect(serialProblem('/dev/ttyUSB7', message).what).toMatch(what)
  })

  // A pseudo terminal of Python's `pty` is a serial port without hardware: opened by the driver as any other.
  test('a real serial port is talked to; one that is not there is said to be so', async () => {
    const script = [
      'import os, pty, sys',
      'master, slave = pty.openpty()',
      'print(os.ttyname(slave), flush=True)',
      'while True:',
      '    data = os.read(master, 100)',
      '    os.write(master, b"heard " + data.strip() + b"\\r\\n")',
    ].join('\n')
    const other = spawn('python3', ['-c', script])
    const path = await new Promise<string>((done) => other.stdout.once('data', (bytes) => done(String(bytes).trim())))
    let seen = ''
    const opened = new Promise<void>((done, fail) => {
      void openSerial(
        path,
        { baudRate: 9600, dataBits: 8, parity: 'none', stopBits: 1 },
        {
          opened: () => done(),
          text: (text) => (seen += text),
          problem: (problem) => fail(new Error(problem.what)),
          closed: () => undefined,
        },
      ).then((made) => (transport = made))
    })
    let transport: Transport | undefined
    await opened
    transport?.write('hello\r')
    await until(async () => seen.includes('heard hello'), 'an answer over the line')
    transport?.close()
    other.kill()
    const problem = await new Promise<string>((done) => {
      void openSerial(
        '/dev/ttyNOT-HERE',
        { baudRate: 9600, dataBits: 8, parity: 'none', stopBits: 1 },
        {
          opened: () => done('opened'),
          text: () => undefined,
          problem: ({ what }) => done(what),
          closed: () => undefined,
        },
      )
    })
    expect(problem).toBe('There is no serial port /dev/ttyNOT-HERE.')
  })

  test('line settings in short', () => {
    expect(serialSettings('9600 8N1')).toEqual({ baudRate: 9600, dataBits: 8, parity: 'none', stopBits: 1 })
    expect(serialSettings('115200 7e2')).toMatchObject({ parity: 'even', stopBits: 2 })
    expect(serialSettings('fast')).toBeUndefined()
  })

  test('an echoed password is masked too', () => {
    const transcript = new Transcript()
    transcript.received('Password: ')
    transcript.received('abc')
    transcript.typed('\r')
    transcript.received('\r\nwelcome')
    expect(transcript.text).toBe('Password: •••\r\nwelcome')
  })
})

test('a job goes out with its first contact and comes in again with every step still at its place', async () => {
  const file = (await app.api.get(`/api/jobs/${job.id}/export`).expect(200)).body
  const made = (
    await app.api.post('/api/jobs/import').set('content-type', 'text/plain').send(JSON.stringify(file)).expect(201)
  ).body as Job
  const record: WalkRecord = (await app.api.get(`/api/jobs/${made.id}/walk`)).body
  const before = await walk()
  const count = (of: Job, its: WalkRecord) =>
    walkOf(of, its, its.order, bringUpJobOf(of, its, [])).flatMap((stop) => stop.steps.filter((step) => step.record))
      .length
  expect(count(made, record)).toBe(count((await app.api.get(`/api/jobs/${job.id}`)).body, before))
  expect(count(made, record)).toBeGreaterThan(10)
  expect(record.facts.map((fact) => fact.text)).toEqual(before.facts.map((fact) => fact.text))
  expect(record.runs.map((run) => run.facts)).toEqual(before.runs.map((run) => run.facts))
  expect(record.facts.some((fact) => before.facts.some((old) => old.deviceId === fact.deviceId))).toBe(false)
})
