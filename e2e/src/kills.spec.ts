import { spawn, type ChildProcess } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { expect, test } from './test'
import { freePort } from './ports'

const main = fileURLToPath(new URL('../../dist/server/main.mjs', import.meta.url))
/** More by hand: KILLS=50. */
const KILLS = Number(process.env.KILLS ?? 5)

test('killed in the middle of writing, again and again: nothing that was acknowledged is lost', async () => {
  test.setTimeout(30_000 + KILLS * 8_000)
  const dataDir = mkdtempSync(join(tmpdir(), 'calm-kills-'))
  const port = await freePort()
  const api = `http://127.0.0.1:${port}/api`
  let child: ChildProcess | undefined
  const begin = async () => {
    child = spawn(process.execPath, [main, '--data', dataDir, '--port', String(port), '--bench-port', '0'], {
      stdio: ['ignore', 'ignore', 'inherit'],
      env: { ...process.env, LOG_LEVEL: 'warn' },
    })
    await expect
      .poll(
        () =>
          fetch(`${api}/health`).then(
            (answer) => answer.ok,
            () => false,
          ),
        { timeout: 20_000 },
      )
      .toBe(true)
  }
  const send = (path: string, body: unknown) =>
    fetch(api + path, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) })
  await begin()
  const job = (await (await send('/jobs', { name: 'Kills', place: '', mode: 'bench' })).json()) as { id: string }
  const acknowledged = new Set<string>()
  for (let kill = 0; kill < KILLS; kill += 1) {
    let alive = true
    const gone = new Promise<void>((done) => child?.once('exit', () => done()))
    setTimeout(() => child?.kill('SIGKILL'), 150 + ((kill * 67) % 400))
    void gone.then(() => (alive = false))
    await Promise.all(
      [0, 1, 2].map(async (writer) => {
        for (let k = 0; alive; k += 1) {
          const where = `kill ${kill} writer ${writer} entry ${k}`
          const answer = await send(`/jobs/${job.id}/forced`, { where, value: '1' }).catch(() => undefined)
          if (answer?.status === 201) acknowledged.add(where)
          else if (!answer) return
        }
      }),
    )
    await gone
    await begin()
    const now = (await (await fetch(`${api}/jobs/${job.id}`)).json()) as { forced: { where: string }[] }
    const kept = new Set(now.forced.map((each) => each.where))
    expect([...acknowledged].filter((where) => !kept.has(where))).toEqual([])
    // What was not acknowledged is there whole or not at all: each entry has its line in the log, and the chain holds.
    const log = (await (await fetch(`${api}/jobs/${job.id}/log`)).json()) as {
      whole: boolean
      entries: { what: string }[]
    }
    expect(log.whole).toBe(true)
    expect(log.entries.filter((entry) => entry.what.startsWith('Forced value noted')).length).toBe(kept.size)
  }
  expect(acknowledged.size).toBeGreaterThan(KILLS * 5)
  console.log(`${KILLS} kills, ${acknowledged.size} acknowledged entries, 0 lost`)
  const ended = new Promise((done) => child?.once('exit', done))
  child?.kill('SIGTERM')
  await ended
  rmSync(dataDir, { recursive: true, force: true })
})
