import { accessSync, chmodSync, constants, mkdirSync, readdirSync } from 'node:fs'
import type { Server } from 'node:http'
import { hostname } from 'node:os'
import { join } from 'node:path'
import { Bench } from '@calm/bench'
import { pino, type Logger } from 'pino'
import { createApp, routesOf, type RouteFacts } from './app'
import { closeDatabase, FolderInUse, FolderLock, NotOurDatabase, openDatabase, settings } from './db'
import { seedDemo, type DemoJobs } from './demo'
import { serveConsoles } from './console'
import { ExchangePool, tcpChannel } from './exchange'
import { Listenings, Sweeps, WaitWatcher } from './firstContact'
import { laptopInterfaces } from './laptop'
import { LiveService, loadBenchProgram, type LiveContext } from './live'
import { isSameOrigin, passcodeKey, ROLES, Sessions, whoAsks } from './security'
import { isDiskFull, Store } from './store'

export interface StartOptions {
  /** Folder of the database; `:memory:` for tests. */
  readonly dataDir: string
  readonly port: number
  /** Without it the server listens on 127.0.0.1 only. */
  readonly host: string | undefined
  /** The sample jobs that an empty database is filled with; left out where it stays empty. */
  readonly demo?: DemoJobs | undefined
  readonly benchPort: number
  readonly webRoot: string | undefined
  readonly workbookWorker?: string
  readonly log?: Logger
  readonly clock?: () => number
}

export interface Running {
  readonly port: number
  readonly url: string
  readonly bench: Bench
  readonly store: Store
  readonly liveContext: LiveContext
  readonly routes: readonly RouteFacts[]
  readonly stop: () => Promise<void>
}

/** A start that cannot be, with a sentence for the person at the terminal. */
export class CannotStart extends Error {}

/** Starts everything: database, bench, exchange, page. `stop` leaves nothing running. */
export async function start(options: StartOptions): Promise<Running> {
  const log = options.log ?? pino()
  const clock = options.clock ?? Date.now
  const lock = lockFolder(options.dataDir)
  const source = await openDatabase(databaseFile(options.dataDir)).catch((reason: unknown) => {
    lock?.release()
    throw reason instanceof NotOurDatabase || isDiskFull(reason) ? new CannotStart(whyNotOpened(reason)) : reason
  })
  const store = new Store(source, clock)
  const { jobs } = store
  const pool = new ExchangePool()
  const bench: Bench = new Bench(async (target, request) => {
    const place = bench.resolve(target.address, target.port)
    const outcome = await programPool.ask(tcpChannel(place), { unit: target.unit, request })
    return outcome.kind === 'answered' ? outcome.response : undefined
  }, clock)
  // The controller on the bench has connections of its own, as a real one has.
  const programPool = new ExchangePool()
  const liveContext = { pool, bench, clock }
  const live = new LiveService(liveContext, jobs)
  const jobOf = (jobId: string) => jobs.get(jobId)
  const waits = new WaitWatcher(store, jobOf, liveContext)
  const listenings = new Listenings(liveContext)
  const undo: (() => unknown)[] = [
    () => lock?.release(),
    () => closeDatabase(source),
    () => pool.close(),
    () => programPool.close(),
    () => bench.stop(),
    () => live.close(),
    () => waits.stop(),
    () => listenings.close(),
  ]
  const stopAll = async () => {
    for (const step of undo.splice(0).reverse()) {
      // One thing that does not stop must not keep the others running.
      try {
        await step()
      } catch (reason) {
        log.error({ err: reason }, 'did not stop well')
      }
    }
  }
  try {
    if (options.demo) await seedDemo(store, options.demo)
    await bench.start(options.benchPort)
    const follow = async (jobId: string) => {
      const job = await jobs.get(jobId)
      if (job.mode === 'bench') loadBenchProgram(bench, job)
    }
    undo.push(store.onChange((jobId) => void follow(jobId).catch(() => undefined)))
    await Promise.all((await benchJobIds(store)).map(follow))
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
      listenings,
      sessions,
      allowedHosts,
      webRoot: options.webRoot,
      workbookWorker: options.workbookWorker,
      startedAt: clock(),
    })
    const server = await listen(app, options.port, options.host ?? '127.0.0.1')
    undo.push(() => closeServer(server))
    const stopConsoles = serveConsoles(server, {
      store,
      jobOf,
      bench,
      sameOrigin: (request) => isSameOrigin(request, allowedHosts),
      log,
      whenEnded: (request, close) => sessions.whenEnded(request.headers.cookie, close),
      whoOf: (request) => whoAsks(source, sessions, guarded, request.headers.cookie),
    })
    undo.push(stopConsoles)
    const address = server.address()
    const port = typeof address === 'object' && address ? address.port : options.port
    lock?.say(port)
    const url = `http://${options.host ?? '127.0.0.1'}:${port}/`
    log.info({ url, dataDir: options.dataDir, demo: options.demo }, 'started')
    if (options.dataDir !== ':memory:') keepToOwner(options.dataDir)
    return { port, url, bench, store, liveContext, routes: routesOf(app), stop: stopAll }
  } catch (reason) {
    await stopAll()
    throw reason
  }
}

const whyNotOpened = (reason: unknown): string =>
  reason instanceof NotOurDatabase
    ? reason.message
    : 'The disk is full: the database cannot be opened. Make room, or choose another --data DIR.'

/** One program for one data folder: two would not know of each other's waits and readings. */
function lockFolder(dataDir: string): FolderLock | undefined {
  if (dataDir === ':memory:') return undefined
  try {
    mkdirSync(dataDir, { recursive: true, mode: 0o700 })
    accessSync(dataDir, constants.W_OK)
    keepToOwner(dataDir)
    return new FolderLock(dataDir)
  } catch (reason) {
    if (reason instanceof FolderInUse) throw new CannotStart(inUse(reason))
    throw new CannotStart(
      isDiskFull(reason)
        ? `The disk is full: nothing can be written to ${dataDir}. Make room, or choose another with --data DIR.`
        : `Cannot write to the data folder ${dataDir} (${(reason as NodeJS.ErrnoException).code ?? reason}). Choose another with --data DIR.`,
    )
  }
}

function inUse({ folder, holder }: FolderInUse): string {
  const who = holder ? ` by process ${holder.pid}${holder.port > 0 ? `, at port ${holder.port}` : ''}` : ''
  return `The data folder ${folder} is in use already${who}. Open that one in the browser, stop it, or choose another with --data DIR.`
}

/** What a plant is made of is nobody else's business: the folder and its files are the owner's alone. */
function keepToOwner(dataDir: string): void {
  if (process.platform === 'win32') return
  chmodSync(dataDir, 0o700)
  for (const name of readdirSync(dataDir)) {
    if (name.startsWith('calm-handshake')) chmodSync(join(dataDir, name), 0o600)
  }
}

const databaseFile = (dataDir: string): string =>
  dataDir === ':memory:' ? dataDir : join(dataDir, 'calm-handshake.sqlite')

/** Names by which this server may be called. When it listens everywhere, every address of this laptop is one. */
function servedNames(host: string | undefined): readonly string[] {
  if (host === undefined) return []
  return host === '0.0.0.0' ? [hostname(), ...laptopInterfaces().map((entry) => entry.address)] : [host]
}

/** Jobs that the controller on the bench may follow: those of a plant need not be read before somebody asks for them. */
async function benchJobIds(store: Store): Promise<readonly string[]> {
  const rows: { id: string }[] = await store.source.query(
    `SELECT "id" FROM "job" WHERE "removedAt" IS NULL AND "mode" = 'bench' ORDER BY "createdAt"`,
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
