import { WebSocket } from 'ws'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { blankDevice, type Job } from '@calm/core/job'
import { closeDatabase, openDatabase } from '../db'
import { startTestApp, type TestApp } from '../fixtures'
import { setPasscode, type Role } from '.'
import { GuessLimit } from './guessLimit'

const passcodes: Readonly<Record<Role, string>> = {
  lead: 'lead and 1',
  technician: 'hands on 22',
  viewer: 'look only 1',
}
const roles = Object.keys(passcodes) as Role[]

let dataDir: string
let app: TestApp
let url: string
const cookies = new Map<Role, string>()

beforeAll(async () => {
  dataDir = mkdtempSync(join(tmpdir(), 'calm-access-'))
  const source = await openDatabase(join(dataDir, 'calm-handshake.sqlite'))
  for (const role of roles) await setPasscode(source.manager, role, passcodes[role])
  await closeDatabase(source)
  app = await startTestApp({ dataDir, host: '127.0.0.2' })
  url = `http://127.0.0.2:${app.running.port}/api`
  for (const role of roles) cookies.set(role, await logIn(passcodes[role]))
})
afterAll(async () => {
  await app.stop()
  rmSync(dataDir, { recursive: true })
})

async function send(
  role: Role | undefined,
  method: string,
  path: string,
  body?: unknown,
  more: Readonly<Record<string, string>> = {},
) {
  const cookie = role === undefined ? '' : (cookies.get(role) ?? '')
  const response = await fetch(url + path, {
    method,
    headers: { 'content-type': 'application/json', cookie, ...more },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  })
  const text = await response.text()
  return {
    status: response.status,
    headers: response.headers,
    body: text.startsWith('{') || text.startsWith('[') ? JSON.parse(text) : text,
  }
}

async function logIn(passcode: string): Promise<string> {
  const answer = await send(undefined, 'POST', '/session', { name: 'A. Lund', passcode })
  return answer.headers.get('set-cookie')?.split(';')[0] ?? ''
}

const SOME_ID = '0d9c1f0e-6a3b-4c1d-8e2f-1a2b3c4d5e6f'

const jobNow = async (): Promise<Job> => {
  const list = (await send('lead', 'GET', '/jobs')).body as { id: string; name: string }[]
  return (await send('lead', 'GET', `/jobs/${list.find((each) => each.name === 'Heron Mill hatchery')?.id}`)).body
}

describe('roles, route by route', () => {
  /** What each route is asked with; ids of the job are filled in. */
  const requests = (job: Job): Readonly<Record<string, readonly [string, string, unknown, readonly Role[]]>> => {
    const [device] = job.devices
    const [network] = job.networks
    const [handshake] = job.handshakes
    const lead: readonly Role[] = ['lead']
    const hands: readonly Role[] = ['lead', 'technician']
    const at = `/jobs/${job.id}`
    const networkFields = { name: 'x', cidr: '10.9.0.0/24', gateway: null, vlan: null, dhcp: '', reserved: '' }
    const acceptance = { rule: 'x', subjectId: device?.id, found: '', reason: 'because' }
    const change = (table: string, fields: unknown, row: { id: string; version: number } | undefined) => ({
      changes: [{ op: 'set', table, id: row?.id, version: 999, fields }],
    })
    return {
      'a job is looked at': ['GET', at, undefined, roles],
      'its log': ['GET', `${at}/log`, undefined, roles],
      'its record': ['GET', `${at}/record`, undefined, roles],
      'a job is begun': ['POST', '/jobs', { name: 'New', place: '', mode: 'bench' }, hands],
      'a job is renamed': ['POST', `${at}/changes`, change('job', { place: 'x' }, { ...job, version: 999 }), hands],
      'a job is removed': ['DELETE', '/jobs/x', undefined, lead],
      'a job is brought back': ['POST', '/jobs/x/restore', undefined, lead],
      'a network is added': [
        'POST',
        `${at}/changes`,
        { changes: [{ op: 'add', table: 'network', id: SOME_ID, fields: networkFields }] },
        lead,
      ],
      'a network is removed': [
        'POST',
        `${at}/changes`,
        { changes: [{ op: 'remove', table: 'network', id: network?.id, version: 999 }] },
        lead,
      ],
      'a network is brought back': [
        'POST',
        `${at}/changes`,
        { changes: [{ op: 'restore', table: 'network', id: network?.id }] },
        lead,
      ],
      'a term, in a list of changes': [
        'POST',
        `${at}/changes`,
        change('term', { text: '9' }, handshake?.terms[0]),
        hands,
      ],
      'a point, in a list of changes': [
        'POST',
        `${at}/changes`,
        change('point', { quantity: 'Q' }, handshake?.points[0]),
        hands,
      ],
      'a network, in a list of changes': ['POST', `${at}/changes`, change('network', { name: 'x' }, network), lead],
      'a device, in a list of changes': ['POST', `${at}/changes`, change('device', { what: 'x' }, device), hands],
      'a finding is let stand': [
        'POST',
        `${at}/changes`,
        {
          changes: [{ op: 'add', table: 'acceptance', id: SOME_ID, fields: acceptance }],
        },
        lead,
      ],
      'evidence is recorded': [
        'POST',
        `/handshakes/${handshake?.id}/evidence`,
        { rung: 'safe', verdict: 'proven', how: 'seen', value: 'seen' },
        hands,
      ],
      'what came with a file is taken over': ['POST', `${at}/from-file/take-over`, {}, lead],
      'the job is signed off': [
        'POST',
        `/handshakes/${handshake?.id}/evidence`,
        { rung: 'handed-over', verdict: 'proven', how: 'seen', value: 'signed' },
        lead,
      ],
      'the sign-off is decided on': [
        'POST',
        `/handshakes/${handshake?.id}/decisions`,
        { rung: 'handed-over', state: 'not-apply', reason: 'because' },
        lead,
      ],
      'a passcode is set': ['PUT', '/passcodes/king', { passcode: 'long enough' }, lead],
      'a forced value is noted': ['POST', `${at}/forced`, { where: 'PD-101', value: '20 %' }, hands],
      'a temporary thing is noted': ['POST', `${at}/temporary`, { what: 'key left', putBack: '' }, hands],
      'a step is settled': [
        'POST',
        `${at}/walk/steps`,
        { stepKey: 'nothing', state: 'done', note: '', seen: 0 },
        hands,
      ],
      'a file is taken in': ['POST', '/jobs/import', { format: 'x' }, hands],
    }
  }

  test('each role does what it may and is refused the rest with 403', async () => {
    const job = await jobNow()
    for (const [what, [method, path, body, allowed]] of Object.entries(requests(job))) {
      for (const role of roles) {
        const { status } = await send(role, method, path, body)
        // Allowed ones may still be refused for what they ask (422, 404, 409), never for who asks.
        expect([what, role, status === 403 ? 'refused' : 'admitted']).toEqual([
          what,
          role,
          allowed.includes(role) ? 'admitted' : 'refused',
        ])
      }
      expect([what, (await send(undefined, method, path, body)).status]).toEqual([what, 401])
    }
  })

  test('nobody makes the server read a large body without a session', async () => {
    const large = await send(undefined, 'POST', `/jobs/${(await jobNow()).id}/changes`, {
      changes: 'x'.repeat(5_000_000),
    })
    expect(large.status).toBe(401)
    const file = await send(undefined, 'POST', '/jobs/import', { x: 'x'.repeat(5_000_000) })
    expect(file.status).toBe(401)
  })

  test('a technician adds what the line-up holds', async () => {
    const job = await jobNow()
    const { tag: _tag, ...fields } = { ...blankDevice, tag: '' }
    const body = {
      changes: [
        {
          op: 'add',
          table: 'device',
          id: '1d9c1f0e-6a3b-4c1d-8e2f-1a2b3c4d5e6f',
          fields: { ...fields, tag: 'NEW-1', kind: 'meter', unitId: null, position: 99 },
        },
      ],
    }
    expect((await send('technician', 'POST', `/jobs/${job.id}/changes`, body)).status).toBe(204)
  })
})

describe('sessions', () => {
  test('logging out ends the session on the server, not only in the browser', async () => {
    const cookie = await logIn(passcodes.technician)
    const as = { cookie }
    expect((await send(undefined, 'GET', '/me', undefined, as)).status).toBe(200)
    const out = await send(undefined, 'DELETE', '/session', undefined, as)
    expect([out.status, out.headers.get('set-cookie')]).toEqual([204, expect.stringMatching(/Max-Age=0/)])
    expect((await send(undefined, 'GET', '/me', undefined, as)).status).toBe(401)
  })

  test('logging out, and a new passcode, close the stream and the console that are open by the session', async () => {
    const { id } = await jobNow()
    const stream = async (cookie: string) => {
      const answer = await fetch(`${url}/jobs/${id}/stream`, { headers: { cookie } })
      return new Response(answer.body).text()
    }
    const opened = async (cookie: string) => {
      const heard = stream(cookie)
      const socket = new WebSocket(`${url.replace('http', 'ws')}/jobs/${id}/console?via=bench:UPS-401`, {
        headers: { cookie, origin: new URL(url).origin },
      })
      await new Promise((done, failed) => socket.once('open', done).once('error', failed))
      const closed = new Promise((done) => socket.once('close', (code) => done(code)))
      return { heard, closed }
    }
    const stays = stream(cookies.get('lead') ?? '')
    const cookie = await logIn(passcodes.technician)
    const loggedOut = await opened(cookie)
    await send(undefined, 'DELETE', '/session', undefined, { cookie })
    expect(await loggedOut.heard).toContain('event: hello')
    expect(await loggedOut.closed).toBe(1008)
    const renewed = await opened(await logIn(passcodes.technician))
    await send('lead', 'PUT', '/passcodes/technician', { passcode: passcodes.technician })
    expect(await renewed.heard).toContain('event: hello')
    expect(await renewed.closed).toBe(1008)
    cookies.set('technician', await logIn(passcodes.technician))
    // Nobody else is thrown out.
    expect(await Promise.race([stays, new Promise((done) => setTimeout(() => done('open'), 200))])).toBe('open')
    await send('lead', 'DELETE', '/session')
    await stays
    cookies.set('lead', await logIn(passcodes.lead))
  })

  test('a viewer types in no console, nor does who has no session; a technician and a lead do', async () => {
    const { id } = await jobNow()
    const opened = (cookie: string) =>
      new Promise<string>((done) => {
        const socket = new WebSocket(`${url.replace('http', 'ws')}/jobs/${id}/console?via=bench:UPS-401`, {
          headers: { cookie, origin: new URL(url).origin },
        })
        socket.once('open', () => {
          socket.close()
          done('opened')
        })
        socket.once('unexpected-response', (_request, { statusCode }) => done(String(statusCode)))
        socket.on('error', () => undefined)
      })
    const answers: Record<string, string> = {}
    for (const role of roles) answers[role] = await opened(cookies.get(role) ?? '')
    expect({ ...answers, nobody: await opened('') }).toEqual({
      viewer: '403',
      technician: 'opened',
      lead: 'opened',
      nobody: '401',
    })
  })

  test('a new passcode ends the sessions of the old one, and no others', async () => {
    const old = { cookie: await logIn(passcodes.viewer) }
    expect((await send(undefined, 'GET', '/jobs', undefined, old)).status).toBe(200)
    expect((await send('lead', 'PUT', '/passcodes/viewer', { passcode: 'short' })).status).toBe(400)
    expect((await send('lead', 'PUT', '/passcodes/viewer', { passcode: 'another 33' })).status).toBe(204)
    expect((await send(undefined, 'GET', '/jobs', undefined, old)).status).toBe(401)
    expect((await send('technician', 'GET', '/jobs')).status).toBe(200)
    expect(await logIn(passcodes.viewer)).toBe('')
    cookies.set('viewer', await logIn('another 33'))
    expect((await send('viewer', 'GET', '/jobs')).status).toBe(200)
    // Set at the terminal it is the same: the file is what counts.
    await setPasscode(app.running.store.source.manager, 'viewer', passcodes.viewer)
    expect((await send('viewer', 'GET', '/jobs')).status).toBe(401)
    cookies.set('viewer', await logIn(passcodes.viewer))
  })
})

describe('answers and requests', () => {
  test('nothing under /api is kept by a browser', async () => {
    for (const path of ['/jobs', '/health', '/nothing', '/me'])
      expect([path, (await send('lead', 'GET', path)).headers.get('cache-control')]).toEqual([path, 'no-store'])
  })

  test.each([
    ['cross-site', 403],
    ['same-site', 403],
    ['same-origin', 200],
    ['none', 200],
  ])('Sec-Fetch-Site %s: %d', async (site, status) => {
    expect((await send('lead', 'GET', '/jobs', undefined, { 'sec-fetch-site': site })).status).toBe(status)
  })

  test('a link from elsewhere opens the page, never the API', async () => {
    const link = { 'sec-fetch-site': 'cross-site', 'sec-fetch-dest': 'document', 'sec-fetch-mode': 'navigate' }
    expect((await send('lead', 'GET', '/jobs', undefined, link)).status).toBe(403)
    const page = await fetch(url.replace('/api', '/'), { headers: link })
    expect(page.status).not.toBe(403)
  })
})

describe('guessing passcodes', () => {
  const limit = () => {
    let now = 1_000_000
    const guesses = new GuessLimit(() => now)
    return { guesses, later: (milliseconds: number) => (now += milliseconds) }
  }
  const tries = (guesses: GuessLimit, count: number, address = 'a') =>
    Array.from({ length: count }, () => guesses.admit(address)).map((each) =>
      each.kind === 'refused' ? 'refused' : each.delayMs,
    )

  test('slower after 5, refused after 20, free again ten minutes after', () => {
    const { guesses, later } = limit()
    expect(tries(guesses, 21)).toEqual([
      0,
      0,
      0,
      0,
      0,
      100,
      200,
      400,
      800,
      ...Array.from({ length: 11 }, () => 1000),
      'refused',
    ])
    expect(guesses.admit('a')).toEqual({ kind: 'refused', seconds: 600 })
    later(10 * 60 * 1000 - 1)
    expect(guesses.admit('a').kind).toBe('refused')
    later(1)
    expect(guesses.admit('a')).toMatchObject({ kind: 'admitted', delayMs: 0 })
  })

  test('over all addresses together too', () => {
    const { guesses } = limit()
    for (let k = 0; k < 20; k += 1) expect(guesses.admit(`address ${k}`).kind).toBe('admitted')
    // Others have used up what all have together: a new one keeps its small share, slowly, and then waits as they do.
    expect(tries(guesses, 4, 'a new one')).toEqual([1000, 1000, 1000, 'refused'])
    expect(tries(guesses, 1, 'another')).toEqual([1000])
  })

  test('whoever sits at this laptop is slowed down, never locked out', () => {
    const { guesses } = limit()
    for (const address of ['127.0.0.1', '::1', '::ffff:127.0.0.1'])
      expect(tries(guesses, 40, address)).not.toContain('refused')
    expect(tries(guesses, 4, '10.20.40.5')).toContain('refused')
    expect(tries(guesses, 1, '127.0.0.1')).toEqual([1000])
  })

  test('one good passcode clears nobody else’s failures', () => {
    const { guesses } = limit()
    tries(guesses, 19, 'b')
    const good = guesses.admit('a')
    if (good.kind === 'admitted') good.succeeded()
    expect(tries(guesses, 2, 'b')).toEqual([1000, 'refused'])
  })

  test('a right one takes back what its address had against it; many at once gain nothing', () => {
    const { guesses } = limit()
    tries(guesses, 4)
    const fifth = guesses.admit('a')
    if (fifth.kind === 'admitted') fifth.succeeded()
    expect(tries(guesses, 1)).toEqual([0])
    // None of these has been answered yet, and each counts already.
    expect(tries(guesses, 25, 'b').filter((each) => each === 'refused').length).toBeGreaterThanOrEqual(5)
  })

  test('at this laptop many wrong ones are each told, the right one gets in, and a session that is open goes on', async () => {
    const answers = await Promise.all(
      Array.from({ length: 26 }, () => send(undefined, 'POST', '/session', { name: 'X', passcode: 'not this one' })),
    )
    const statuses = answers.map((each) => each.status)
    expect(new Set(statuses)).toEqual(new Set([401]))
    expect(await logIn(passcodes.lead)).not.toBe('')
    expect((await send('lead', 'GET', '/jobs')).status).toBe(200)
  })
})
