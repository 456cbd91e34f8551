import { expect, type Locator, type Page } from '@playwright/test'
import { spawn } from 'node:child_process'
import { cpSync, existsSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import type { DemoJobs } from '../../packages/server/src/demo'
import { serverHost } from './hosting'
import { freePort } from './ports'

const main = fileURLToPath(new URL('../../dist/server/main.mjs', import.meta.url))

export interface RunningApp {
  readonly url: string
  readonly port: number
  readonly dataDir: string
  /** Stops the server and keeps its data. */
  readonly stop: () => Promise<void>
  /** Starts it again on the same port and data. */
  readonly startAgain: () => Promise<void>
  /** The server stands still, or goes on. */
  readonly freeze: (still: boolean) => void
  readonly end: () => Promise<void>
}

/** Asks the server beside the page: for what a test begins from, and for what hands do at the stand-ins. */
export const talk = (app: () => RunningApp) => ({
  get: async <T>(path: string) => (await (await fetch(`${app().url}/api${path}`)).json()) as T,
  /** @throws Error with what the server said */
  send: async (method: 'POST' | 'PUT', path: string, body: object) => {
    const answer = await fetch(`${app().url}/api${path}`, {
      method,
      headers: { 'content-type': 'application/json', 'x-page': 'test' },
      body: JSON.stringify(body),
    })
    if (!answer.ok) throw new Error(`${path}: ${await answer.text()}`)
  },
})

/** Where a data folder with the demo's jobs lies ready; making them takes longer than most tests. */
const ready = (jobs: DemoJobs) => fileURLToPath(new URL(`../../.cache/e2e-data/${jobs}`, import.meta.url))

/** Makes the demo's jobs once, for all tests to begin from. */
export async function makeReady(): Promise<void> {
  for (const jobs of ['small', 'all'] as const) {
    rmSync(ready(jobs), { recursive: true, force: true })
    const app = await startApp({ jobs, anew: true })
    await app.stop()
    cpSync(app.dataDir, ready(jobs), { recursive: true })
    await app.end()
  }
}

/**
 * The port that the apps of this process have, one after the other: a browser keeps by the address what it fetched and
 * compiled of a page. Another is taken while one of them runs.
 */
let usualPort: number | undefined
let isUsualTaken = false

async function portForApp(): Promise<number> {
  if (isUsualTaken) return freePort()
  isUsualTaken = true
  usualPort ??= await freePort()
  return usualPort
}

interface AppOptions {
  /** Usually without the job of 400 devices: a server reads its jobs when it starts, and that one takes longest. */
  readonly jobs?: DemoJobs
  /** Makes them anew, whatever lies ready. */
  readonly anew?: boolean
  readonly passcode?: string
}

/** The app with the demo's jobs, in a data folder of its own. */
export async function startApp({ jobs = 'small', anew = false, passcode }: AppOptions = {}): Promise<RunningApp> {
  const port = await portForApp()
  const dataDir = mkdtempSync(join(tmpdir(), 'calm-e2e-'))
  if (!anew && existsSync(ready(jobs))) cpSync(ready(jobs), dataDir, { recursive: true })
  if (passcode !== undefined) await setPasscode(dataDir, passcode)
  const host = passcode === undefined ? undefined : '127.0.0.1'
  let stop: RunningApp['stop'] = () => Promise.resolve()
  const begin = async () => {
    const at = serverHost()
    await at.ask({ what: 'start', port, dataDir, host, demo: jobs })
    stop = () => at.ask({ what: 'stop', port })
  }
  await begin()
  return {
    url: `http://127.0.0.1:${port}`,
    port,
    dataDir,
    stop: () => stop(),
    startAgain: begin,
    freeze: (still) => serverHost().freeze(still),
    end: async () => {
      await stop()
      if (port === usualPort) isUsualTaken = false
      rmSync(dataDir, { recursive: true, force: true })
    },
  }
}

/** Sets the passcode of the technician, as it is done at the terminal. */
function setPasscode(dataDir: string, passcode: string): Promise<void> {
  const child = spawn(process.execPath, [main, '--data', dataDir, '--set-passcode', 'technician'], {
    stdio: ['pipe', 'ignore', 'inherit'],
  })
  child.stdin.end(`${passcode}\n`)
  return new Promise((done, fail) =>
    child.once('exit', (code) => (code === 0 ? done() : fail(new Error(`--set-passcode ended with ${code}`)))),
  )
}

/** A stage's link on the walk. */
export function stage(page: Page, name: string): Locator {
  return page.getByRole('navigation', { name: 'The walk' }).getByRole('link', { name: new RegExp(`^${name}`) })
}

/** Changes one row of a job as somebody else would, past the page. */
export async function changeElsewhere(
  app: RunningApp,
  jobId: string,
  table: string,
  row: { readonly id: string; readonly version: number },
  fields: object,
): Promise<void> {
  const changes = [{ op: 'set', table, id: row.id, version: row.version, fields }]
  const answer = await fetch(`${app.url}/api/jobs/${jobId}/changes`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ changes }),
  })
  if (!answer.ok) throw new Error(`The change was refused: ${await answer.text()}`)
}

/** Takes one of a list of choices, by what it says. */
export async function choose(list: Locator, option: string | RegExp): Promise<void> {
  const choice = list
    .page()
    .getByRole('option', { name: option, exact: typeof option === 'string' })
    .first()
  // A page that is still settling draws its list anew and shuts what was open: it is opened again then.
  await expect(async () => {
    if (!(await choice.isVisible())) await list.click({ timeout: 3_000 })
    await choice.click({ timeout: 3_000 })
  }).toPass({ timeout: 20_000 })
}

/** Waits until a list that was opened by key has the focus at one of its options: letters typed before are lost. */
export const listTakesKeys = (page: Page): Promise<void> => expect(page.locator('[role=option]:focus')).toBeVisible()
