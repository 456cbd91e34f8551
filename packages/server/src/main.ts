import { homedir } from 'node:os'
import { join } from 'node:path'
import { createInterface } from 'node:readline/promises'
import { fileURLToPath } from 'node:url'
import { parseArgs } from 'node:util'
import { pino } from 'pino'
import { openDatabase, settings } from './db'
import { hashPasscode, PASSCODE_MIN, passcodeKey, ROLES, type Role } from './security'
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

async function setPasscode(dataDir: string, role: string): Promise<void> {
  if (!ROLES.includes(role as Role)) throw new CannotStart(`There is no role "${role}". Use ${ROLES.join(', ')}.`)
  const input = createInterface({ input: process.stdin, output: process.stdout })
  const passcode = await input.question(`Passcode for ${role}, at least ${PASSCODE_MIN} characters: `)
  input.close()
  if (passcode.length < PASSCODE_MIN)
    throw new CannotStart(
      `The passcode has ${passcode.length} characters; at least ${PASSCODE_MIN} are needed. Nothing was changed.`,
    )
  const { mkdirSync } = await import('node:fs')
  mkdirSync(dataDir, { recursive: true })
  const source = await openDatabase(join(dataDir, 'calm-handshake.sqlite'))
  await source.manager.save(settings, { key: passcodeKey(role as Role), value: await hashPasscode(passcode) })
  await source.destroy()
  console.log(`Passcode for ${role} is set.`)
}

async function main(): Promise<void> {
  const options = readOptions()
  const dataDir = options.data ?? defaultDataDir()
  if (options['set-passcode'] !== undefined) return setPasscode(dataDir, options['set-passcode'])
  const log = pino({ level: process.env.LOG_LEVEL ?? 'info' }, pino.destination({ dest: 2, sync: true }))
  const running = await start({
    dataDir,
    port: options.port,
    host: options.host,
    demo: options.demo,
    benchPort: options.benchPort,
    webRoot: fileURLToPath(new URL('../web', import.meta.url)),
    log,
  })
  console.log(`\n  Calm Handshake is at ${running.url}\n  Data: ${dataDir}\n  Stop with Ctrl C.\n`)
  let stopping = false
  const stop = async (signal: string) => {
    if (stopping) return
    stopping = true
    log.info({ signal }, 'stopping')
    await running.stop()
    process.exit(0)
  }
  process.on('SIGINT', () => void stop('SIGINT'))
  process.on('SIGTERM', () => void stop('SIGTERM'))
}

main().catch((reason) => {
  console.error(reason instanceof CannotStart ? `\n  ${reason.message}\n` : reason)
  process.exit(1)
})
