import { spawn } from 'node:child_process'
import { randomUUID } from 'node:crypto'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import type { Job, Point } from '@calm/core/job'
import { chromium } from '@playwright/test'
import { chromiumFlags, chromiumPath } from '../e2e/src/browser'
import { freePort } from '../e2e/src/ports'
import type { Line } from './measured'

const root = dirname(dirname(fileURLToPath(import.meta.url)))
const POINTS = 6_000
const EDITS = 40

interface JobFile {
  readonly job: { handshakes: { points: Partial<Point>[] }[] }
}

/** The large job of the demo with many points in its handshakes, as a file. */
function withPoints(file: JobFile): JobFile {
  const { handshakes } = file.job
  const each = Math.ceil(POINTS / handshakes.length)
  for (const handshake of handshakes) {
    const [first] = handshake.points
    if (!first) continue
    handshake.points = Array.from({ length: each }, (_, k) => ({
      ...first,
      id: randomUUID(),
      tag: `${String(first.tag)}_${k}`,
      position: k,
    }))
  }
  return file
}

const at = (list: readonly number[], share: number) =>
  [...list].sort((a, b) => a - b)[Math.min(list.length - 1, Math.floor(list.length * share))] ?? NaN

interface LoopFound {
  readonly wall: number
  readonly own: number
  readonly ticks: number
}

/** One cell after the other edited in the browser, with 400 devices and 6 000 points behind it. */
export async function editing(): Promise<readonly Line[]> {
  const port = await freePort()
  const dataDir = mkdtempSync(join(tmpdir(), 'calm-measure-'))
  const probed = join(dataDir, 'loop.json')
  const server = spawn(
    process.execPath,
    [
      ...['--import', join(root, 'tools/loopProbe.mjs'), join(root, 'dist/server/main.mjs')],
      ...['--demo', '--data', dataDir, '--port', String(port), '--bench-port', '0'],
    ],
    { stdio: 'ignore', env: { ...process.env, LOG_LEVEL: 'warn', LOOP_PROBE: probed } },
  )
  const stopServer = async () => {
    if (server.exitCode !== null) return
    server.kill('SIGINT')
    await new Promise((done) => server.once('exit', done))
  }
  const url = `http://127.0.0.1:${port}`
  const answer = async (path: string, init?: RequestInit) => (await fetch(`${url}/api${path}`, init)).json()
  for (let tries = 0; tries < 200; tries += 1) {
    if (
      await fetch(`${url}/api/health`).then(
        () => true,
        () => false,
      )
    )
      break
    await new Promise((done) => setTimeout(done, 100))
  }
  const browser = await chromium.launch({ executablePath: chromiumPath, args: [...chromiumFlags] })
  try {
    const jobs = (await answer('/jobs')) as readonly { id: string; name: string }[]
    const large = jobs.find(({ name }) => name.startsWith('Three Rivers'))
    const file = withPoints((await answer(`/jobs/${large?.id ?? ''}/export`)) as JobFile)
    const job = (await answer('/jobs/import', {
      method: 'POST',
      headers: { 'content-type': 'text/plain' },
      body: JSON.stringify(file),
    })) as Job
    const points = job.handshakes.reduce((sum, { points: list }) => sum + list.length, 0)
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
    await page.goto(`${url}/jobs/${job.id}/line-up`)
    await page
      .getByRole('button', { name: /^What / })
      .first()
      .waitFor()
    const shown: number[] = []
    const saved: number[] = []
    server.kill('SIGUSR2')
    for (let k = 0; k < EDITS; k += 1) {
      const cell = page.getByRole('button', { name: /^What .* is: / }).nth(k % 8)
      await cell.click()
      await page.keyboard.type(`Edited ${k}`)
      const answered = page.waitForResponse((response) => response.url().endsWith('/changes'))
      const start = performance.now()
      await page.keyboard.press('Enter')
      await page
        .getByRole('button', { name: new RegExp(`: Edited ${k}\\.`) })
        .first()
        .waitFor()
      shown.push(performance.now() - start)
      await answered
      saved.push(performance.now() - start)
    }
    await stopServer()
    const loop = JSON.parse(readFileSync(probed, 'utf8')) as LoopFound
    const both = (list: readonly number[]) => `${at(list, 0.5).toFixed(0)} / ${at(list, 0.95).toFixed(0)} ms`
    return [
      {
        work: `an edit at ${job.devices.length} devices, ${points} points: Enter to shown, p50 / p95`,
        measured: both(shown),
        target: '-',
      },
      { work: 'the same, Enter to saved', measured: both(saved), target: '-' },
      {
        work: `longest stretch of the event loop meanwhile, its own computing (${loop.ticks} looks)`,
        measured: `${loop.own.toFixed(0)} ms`,
        target: 'under 50 ms',
      },
      {
        work: 'the same by the clock, with what the machine took',
        measured: `${loop.wall.toFixed(0)} ms`,
        target: '-',
      },
    ]
  } finally {
    await browser.close()
    await stopServer()
    rmSync(dataDir, { recursive: true, force: true })
  }
}
