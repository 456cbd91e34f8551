// What every command needs first: a Node.js that fits, and the libraries.
import { spawn, spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { setPriority } from 'node:os'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'

export const root = dirname(dirname(fileURLToPath(import.meta.url)))
export const say = (text) => console.log(`  ${text}`)

/** Ends with a sentence and a non-zero code. */
export function giveUp(sentence) {
  console.error(`\n  ${sentence}\n`)
  process.exit(1)
}

const OLDEST = [20, 19]

export function requireNode() {
  const [major = 0, minor = 0] = process.versions.node.split('.').map(Number)
  if (major > OLDEST[0] || (major === OLDEST[0] && minor >= OLDEST[1])) return
  giveUp(`This needs Node.js ${OLDEST.join('.')} or newer; here is ${process.versions.node}.`)
}

/** Runs a command to its end and shows what it says. @returns whether it ended well */
export function run(command, args, options = {}) {
  const done = spawnSync(command, args, {
    cwd: root,
    stdio: 'inherit',
    shell: process.platform === 'win32',
    ...options,
  })
  return done.status === 0
}

/**
 * Runs a command beside others.
 * @param priority as the system has it; what the command starts inherits it
 * @returns whether it ended well, and all that it said
 */
export function runBeside(command, args, priority = 0) {
  return new Promise((done) => {
    const child = spawn(command, args, { cwd: root, shell: process.platform === 'win32' })
    if (child.pid !== undefined && priority > 0) setPriority(child.pid, priority)
    let told = ''
    const hear = (bytes) => (told += bytes)
    child.stdout.on('data', hear)
    child.stderr.on('data', hear)
    child.on('error', (reason) => done({ good: false, told: `${told}${reason.message}\n` }))
    child.on('close', (code) => done({ good: code === 0, told }))
  })
}

/** Runs a command beside others and shows what it says as it says it. */
export function runShown(command, args) {
  return new Promise((done) => {
    const child = spawn(command, args, { cwd: root, stdio: 'inherit', shell: process.platform === 'win32' })
    child.on('error', done)
    child.on('close', done)
  })
}

/** Installs the libraries when they are not there, or when the list of them changed since. */
export function installLibraries() {
  const lock = createHash('sha256')
    .update(readFileSync(join(root, 'package-lock.json')))
    .digest('hex')
  const stamp = join(root, 'node_modules', '.installed')
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return false
  say('installing libraries (once; about a minute)')
  rmSync(stamp, { force: true })
  const quiet = ['ci', '--no-audit', '--no-fund', '--loglevel=error']
  if (!run('npm', quiet))
    giveUp('The libraries could not be installed. Is the package registry reachable? Nothing was started.')
  mkdirSync(dirname(stamp), { recursive: true })
  writeFileSync(stamp, lock)
  return true
}
