import { spawn } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { chromium, type Page } from '@playwright/test'
import { chromiumFlags, chromiumPath } from '../e2e/src/browser'
import { freePort } from '../e2e/src/ports'

const root = dirname(dirname(fileURLToPath(import.meta.url)))

/** The built app with the demo's jobs, and a page to it, while something is measured. */
export interface MeasuredApp {
  readonly url: string
  readonly page: Page
  /** Asks the server past the page. */
  readonly answer: (path: string, init?: RequestInit) => Promise<unknown>
  /** Tells the server's probe to begin. */
  readonly probe: () => void
  /** Ends the server; its probe has written by then. */
  readonly stop: () => Promise<void>
}

/** @param probed where the probe of the server's event loop writes */
export async function measuring<T>(run: (app: MeasuredApp, probed: string) => Promise<T>): Promise<T> {
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
  const stop = async () => {
    if (server.exitCode !== null) return
    server.kill('SIGINT')
    await new Promise((done) => server.once('exit', done))
  }
  const url = `http://127.0.0.1:${port}`
  for (let tries = 0; tries < 200; tries += 1) {
    if ((await fetch(`${url}/api/health`).catch(() => undefined))?.ok) break
    await new Promise((done) => setTimeout(done, 100))
  }
  const browser = await chromium.launch({ executablePath: chromiumPath, args: [...chromiumFlags] })
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
    const answer = async (path: string, init?: RequestInit) => (await fetch(`${url}/api${path}`, init)).json()
    return await run({ url, page, answer, probe: () => server.kill('SIGUSR2'), stop }, probed)
  } finally {
    await browser.close()
    await stop()
    rmSync(dataDir, { recursive: true, force: true })
  }
}

/** The value below which a share of a list lies. */
export const at = (list: readonly number[], share: number): number =>
  [...list].sort((a, b) => a - b)[Math.min(list.length - 1, Math.floor(list.length * share))] ?? NaN

/** @example both([1, 2, 3]) // '2 / 3 ms': the middle, and what nineteen in twenty stay under */
export const both = (list: readonly number[]): string => `${at(list, 0.5).toFixed(0)} / ${at(list, 0.95).toFixed(0)} ms`
