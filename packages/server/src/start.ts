import { mkdirSync, accessSync, constants } from 'node:fs'
import type { Server } from 'node:http'
import { hostname } from 'node:os'
import { join } from 'node:path'
import { Bench } from '@calm/bench'
import { pino, type Logger } from 'pino'
import { createApp } from './app'
import { openDatabase, settings } from './db'
import { seedDemo } from './demo'
import { serveConsoles } from './console'
import { ExchangePool } from './exchange'
import { Sweeps, WaitWatcher } from './firstContact'
import { laptopInterfaces } from './laptop'
import { CurrentJobs, LiveService, loadBenchProgram } from './live'
import { isSameOrigin, passcodeKey, ROLES, Sessions, whoAsks } from './security'
import { Store } from './store'

export interface StartOptions {
  /** Folder of the database; `:memory:` for tests. */
  readonly dataDir: string
  readonly port: number
  /** Without it the server listens on 127.0.0.1 only. */
  readonly host: string | undefined
  readonly demo: boolean
  readonly benchPort: number
  readonly webRoot: string | undefined
  readonly log?: Logger
  readonly clock?: () => number
}

export interface Running {
  readonly port: number
  readonly url: string
  readonly bench: Bench
  readonly stop: () => Promise<void>
}

/** A start that cannot be, with a sentence for the person at the terminal. */
export class CannotStart extends Error {}

/** Starts everything: database, bench, exchange, page. `stop` leaves nothing running. */
export async function start(options: StartOptions): Promise<Running> {
  const log = options.log ?? pino()
  const clock = options.clock ?? Date.now
  const source = await openDatabase(databaseFile(options.dataDir))
  const store = new Store(source, clock)
  const jobs = new CurrentJobs(store)
  const pool = new ExchangePool()
  const bench = new Bench(async (target, request) => {
    const place = bench.resolve(target.address, target.port)
    const outcome = await programPool.ask(place, target.unit, request)
    return outcome.kind === 'answered' ? outcome.response : undefined
  }, clock)
  // The controller on the bench has connections of its own, as a real one has.
  const programPool = new ExchangePool()
  const liveContext = { pool, bench, clock }
  const live = new LiveService(liveContext, jobs)
  const jobOf = (jobId: string) => jobs.get(jobId)
  const waits = new WaitWatcher(store, jobOf, liveContext)
  const undo: (() => unknown)[] = [
    () => source.destroy(),
    () => pool.close(),
    () => programPool.close(),
    () => bench.stop(),
    () => live.close(),
    () => waits.stop(),
  ]
  const stopAll = async () => {
    for (const step of undo.splice(0).reverse()) await step()
  }
  try {
    if (options.demo) await seedDemo(store)
    await bench.start(options.benchPort)
    const follow = async (jobId: string) => {
      const job = await jobs.get(jobId)
      if (job.mode === 'bench') loadBenchProgram(bench, job)
    }
    undo.push(store.onChange((jobId) => void follow(jobId).catch(() => undefined)))
    await Promise.all((await allJobIds(store)).map(follow))
    waits.start()
    const guarded = options.host !== undefined
    if (guarded) await requirePasscode(store)
    const sessions = new Sessions(clock)
    const allowedHosts = servedNames(options.host)
    const app = createApp({
      store,
      jobs,
      live,
      liveContext,
      bench,
      guarded,
      log,
      clock,
      waits,
      sweeps: new Sweeps(liveContext),
      sessions,
      allowedHosts,
      webRoot: options.webRoot,
      startedAt: clock(),
    })
    const server = await listen(app, options.port, options.host ?? '127.0.0.1')
    undo.push(() => closeServer(server))
    const stopConsoles = serveConsoles(server, {
      store,
      jobOf,
      bench,
      sameOrigin: (request) => isSameOrigin(request, allowedHosts),
      whoOf: (request) => whoAsks(source, sessions, guarded, request.headers.cookie),
    })
    undo.push(stopConsoles)
    const address = server.address()
    const port = typeof address === 'object' && address ? address.port : options.port
    const url = `http://${options.host ?? '127.0.0.1'}:${port}/`
    log.info({ url, dataDir: options.dataDir, demo: options.demo }, 'started')
    return { port, url, bench, stop: stopAll }
  } catch (reason) {
    await stopAll()
    throw reason
  }
}

function databaseFile(dataDir: string): string {
  if (dataDir === ':memory:') return dataDir
  try {
    mkdirSync(dataDir, { recursive: true })
    accessSync(dataDir, constants.W_OK)
  } catch (reason) {
    throw new CannotStart(
      `Cannot write to the data folder ${dataDir} (${(reason as NodeJS.ErrnoException).code ?? reason}). Choose another with --data DIR.`,
    )
  }
  return join(dataDir, 'calm-handshake.sqlite')
}

/** Names by which this server may be called. When it listens everywhere, every address of this laptop is one. */
function servedNames(host: string | undefined): readonly string[] {
  if (host === undefined) return []
  return host === '0.0.0.0' ? [hostname(), ...laptopInterfaces().map((entry) => entry.address)] : [host]
}

async function allJobIds(store: Store): Promise<readonly string[]> {
  const rows: { id: string }[] = await store.source.query(
    `SELECT "id" FROM "job" WHERE "removedAt" IS NULL ORDER BY "createdAt"`,
  )
  return rows.map((row) => row.id)
}

async function requirePasscode(store: Store): Promise<void> {
  const known = await Promise.all(
    ROLES.map((role) => store.source.manager.existsBy(settings, { key: passcodeKey(role) })),
  )
  if (!known.includes(true)) {
    throw new CannotStart(
      'Others on the network could reach this. Set a passcode first: npm start -- --set-passcode technician',
    )
  }
}

function listen(app: ReturnType<typeof createApp>, port: number, host: string): Promise<Server> {
  return new Promise((done, fail) => {
    const server = app.listen(port, host)
    server.once('listening', () => done(server))
    server.once('error', (error: NodeJS.ErrnoException) => {
      fail(
        error.code === 'EADDRINUSE'
          ? new CannotStart(`Port ${port} is in use. Stop what uses it, or choose another with --port N.`)
          : error.code === 'EACCES'
            ? new CannotStart(
                `Port ${port} needs rights that this account does not have. Choose one above 1023 with --port N.`,
              )
            : error,
      )
    })
  })
}

function closeServer(server: Server): Promise<void> {
  return new Promise((done) => {
    server.close(() => done())
    server.closeAllConnections()
  })
}
