import { chmodSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { openDatabase, settings } from './db'
import { quietOptions, rawServer, startTestApp } from './fixtures'
import { hashPasscode, passcodeFits, passcodeKey } from './security'
import { CannotStart, start } from './start'

const folder = () => mkdtempSync(join(tmpdir(), 'calm-start-'))

describe('starting', () => {
  test('a port in use is said in a sentence', async () => {
    const taken = await rawServer(() => undefined)
    await expect(start({ ...quietOptions, port: taken.port })).rejects.toThrow(
      new CannotStart(`Port ${taken.port} is in use. Stop what uses it, or choose another with --port N.`),
    )
    await taken.stop()
  })

  test('a data folder that cannot be made is said in a sentence', async () => {
    await expect(start({ ...quietOptions, dataDir: '/dev/null/nothing' })).rejects.toThrow(
      /Cannot write to the data folder \/dev\/null\/nothing/,
    )
    const locked = folder()
    chmodSync(locked, 0o500)
    // The administrator may write anywhere, so only others see this refusal.
    if (process.getuid?.() !== 0) await expect(start({ ...quietOptions, dataDir: locked })).rejects.toThrow(CannotStart)
    rmSync(locked, { recursive: true })
  })

  test('what was recorded is there after a restart; stopping leaves the port free', async () => {
    const dataDir = folder()
    const first = await startTestApp({ dataDir })
    const before = await first.job()
    await first.stop()
    const second = await startTestApp({ dataDir, port: first.running.port })
    expect(await second.job()).toEqual(before)
    await second.stop()
    rmSync(dataDir, { recursive: true })
  })

  test('the controller on the bench follows the jobs of the bench; one of a plant is not read before it is asked for', async () => {
    const dataDir = folder()
    const first = await startTestApp({ dataDir, demo: undefined })
    for (const mode of ['plant', 'bench'])
      await first.api.post('/api/jobs').send({ name: mode, place: '', mode }).expect(201)
    await first.stop()
    const second = await start({ ...quietOptions, dataDir })
    const rows = await second.store.read((manager) => manager.query<{ id: string }[]>(`SELECT "id", "name" FROM "job"`))
    expect(rows.map(({ id, ...row }) => ({ ...row, isRead: second.store.jobs.peek(id) !== undefined }))).toEqual([
      { name: 'plant', isRead: false },
      { name: 'bench', isRead: true },
    ])
    await second.stop()
    rmSync(dataDir, { recursive: true })
  })
})

describe('others on the network', () => {
  test('nothing is served to the network before a passcode is set', async () => {
    await expect(start({ ...quietOptions, host: '127.0.0.2' })).rejects.toThrow(/Set a passcode first/)
  })

  test('with one, nothing but the log-in answers without it; a viewer looks and does not change', async () => {
    const dataDir = folder()
    const source = await openDatabase(join(dataDir, 'calm-handshake.sqlite'))
    await source.manager.save(settings, { key: passcodeKey('viewer'), value: await hashPasscode('look only 1') })
    await source.manager.save(settings, { key: passcodeKey('technician'), value: await hashPasscode('hands on 22') })
    await source.destroy()
    const app = await start({ ...quietOptions, dataDir, host: '127.0.0.2', demo: 'small' })
    const url = `http://127.0.0.2:${app.port}/api`
    const send = (path: string, init: RequestInit = {}) =>
      fetch(url + path, { ...init, headers: { 'content-type': 'application/json', ...init.headers } })
    expect((await send('/jobs')).status).toBe(401)
    expect((await send('/health')).status).toBe(200)
    const logIn = async (passcode: string) => {
      const answer = await send('/session', { method: 'POST', body: JSON.stringify({ name: 'A. Lund', passcode }) })
      return { status: answer.status, cookie: answer.headers.get('set-cookie') ?? '' }
    }
    expect((await logIn('wrong')).status).toBe(401)
    const viewer = await logIn('look only 1')
    expect(viewer.cookie).toMatch(/HttpOnly; SameSite=Strict/)
    const as = (cookie: string) => ({ headers: { cookie: cookie.split(';')[0] ?? '' } })
    expect(await (await send('/me', as(viewer.cookie))).json()).toEqual({
      name: 'A. Lund',
      role: 'viewer',
      guarded: true,
    })
    const begin = { method: 'POST', body: JSON.stringify({ name: 'X', place: '', mode: 'bench' }) }
    expect((await send('/jobs', { ...begin, ...as(viewer.cookie) })).status).toBe(403)
    const technician = await logIn('hands on 22')
    expect((await send('/jobs', { ...begin, ...as(technician.cookie) })).status).toBe(201)
    await app.stop()
    rmSync(dataDir, { recursive: true })
  })

  test('a passcode fits itself and nothing else; it is not kept', async () => {
    const stored = await hashPasscode('hands on 22')
    expect(stored).not.toContain('hands')
    expect(await passcodeFits('hands on 22', stored)).toBe(true)
    expect(await passcodeFits('hands on 23', stored)).toBe(false)
    expect(await passcodeFits('', stored)).toBe(false)
  })
})
