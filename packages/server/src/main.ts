import { mkdirSync } from 'node:fs'
import { homedir } from 'node:os'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { parseArgs } from 'node:util'
import { pino } from 'pino'
import { askSecretly } from './askSecretly'
import { stopWithParents } from './parents'
import { closeDatabase, NotOurDatabase, openDatabase } from './db'
import { PASSCODE_MIN } from '@calm/contract'
import { ROLES, setPasscode } from './security'
import { CannotStart, start } from './start'

/** The user's data folder by the custom of each system. */
function defaultDataDir(): string {
  const name = 'calm-handshake'
  if (process.platform === 'win32') return join(process.env.APPDATA ?? join(homedir(), 'AppData', 'Roaming'), name)
  if (process.platform === 'darwin') return join(homedir(), 'Library', 'Application Support', name)
  return join(process.env.XDG_DATA_HOME ?? join(homedir(), '.local', 'share'), name)
}

function readOptions() {
  try {
    const { values } = parseArgs({
      options: {
        data: { type: 'string' },
        port: { type: 'string', default: '4780' },
        host: { type: 'string' },
        demo: { type: 'boolean', default: false },
        'bench-port': { type: 'string', default: '1502' },
        'set-passcode': { type: 'string' },
      },
    })
    const portOf = (text: string, name: string) => {
      const port = Number(text)
      if (/^\d+$/.test(text) && port <= 65_535) return port
      throw new CannotStart(`--${name} ${text} is not a port. Use 0 to 65535.`)
    }
    return { ...values, port: portOf(values.port, 'port'), benchPort: portOf(values['bench-port'], 'bench-port') }
  } catch (reason) {
    throw reason instanceof CannotStart
      ? reason
      : new CannotStart(reason instanceof Error ? reason.message : String(reason))
  }
}

async function askAndSetPasscode(dataDir: string, role: string): Promise<void> {
  const known = ROLES.find((each) => each === role)
  if (!known) throw new CannotStart(`There is no role "${role}". Use ${ROLES.join(', ')}.`)
  const passcode = await askSecretly(`Passcode for ${role}, at least ${PASSCODE_MIN} characters: `)
  if (passcode.length < PASSCODE_MIN)
    throw new CannotStart(
      `The passcode has ${passcode.length} characters; at least ${PASSCODE_MIN} are needed. Nothing was changed.`,
    )
  if (process.stdin.isTTY && (await askSecretly('The same again: ')) !== passcode)
    throw new CannotStart('The two are not the same. Nothing was changed.')
  mkdirSync(dataDir, { recursive: true, mode: 0o700 })
  const source = await openDatabase(join(dataDir, 'calm-handshake.sqlite')).catch((reason: unknown) => {
    throw reason instanceof NotOurDatabase ? new CannotStart(reason.message) : reason
  })
  await setPasscode(source.manager, known, passcode)
  await closeDatabase(source)
  console.log(`Passcode for ${role} is set. Whoever was in with the one before logs in again.`)
}

const STOP_LIMIT_MS = 10_000
async function main(): Promise<void> {
  // What this program writes is its owner's alone.
  process.umask(0o077)
  const options = readOptions()
  const dataDir = options.data ?? defaultDataDir()
  if (options['set-passcode'] !== undefined) return askAndSetPasscode(dataDir, options['set-passcode'])
  const log = pino({ level: process.env.LOG_LEVEL ?? 'info' }, pino.destination({ dest: 2, sync: true }))
  const running = await start({
    dataDir,
    port: options.port,
    host: options.host,
    demo: options.demo ? 'all' : undefined,
    benchPort: options.benchPort,
    webRoot: fileURLToPath(new URL('../web', import.meta.url)),
    workbookWorker: fileURLToPath(new URL('./workbook.worker.mjs', import.meta.url)),
    log,
  })
  if (running.bench.block > 0)
    console.log(
      `\n  Another bench runs on this machine: stand-ins of this one are on ${running.bench.hostOf('10.20.40.0').replace(/0$/, 'x')}.`,
    )
  console.log(`\n  Calm Handshake is at ${running.url}\n  Data: ${dataDir}\n  Stop with Ctrl C.\n`)
  let stopping = false
  const stop = async (signal: string) => {
    if (stopping) return
    stopping = true
    log.info({ signal }, 'stopping')
    // What does not end by itself is ended: nobody should have to look for a process.
    setTimeout(() => process.exit(1), STOP_LIMIT_MS).unref()
    await running.stop()
    process.exit(0)
  }
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const) process.on(signal, () => void stop(signal))
  if (process.env.npm_lifecycle_event !== undefined) stopWithParents(() => void stop('npm ended'))
}

main().catch((reason) => {
  console.error(reason instanceof CannotStart ? `\n  ${reason.message}\n` : reason)
  process.exit(1)
})
