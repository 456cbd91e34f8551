// What the tests need of the machine: Debian's browser, and Python as an independent reader.
import { spawnSync } from 'node:child_process'
import { existsSync } from 'node:fs'
import { pathToFileURL } from 'node:url'
import { giveUp, run, say } from './prepare.mjs'

export const chromiumPath = process.env.CHROMIUM ?? '/usr/bin/chromium'

/** Makes sure that there is a browser; installs it where that is allowed, else says what to install. */
export function requireChromium() {
  const hint = 'Chromium at /usr/bin/chromium (or set CHROMIUM to its path)'
  requirePackage('chromium', hint, () => existsSync(chromiumPath))
}

/** Addresses, CSV and XLSX are checked against Python's standard library. */
export function requirePython() {
  requirePackage('python3', 'Python 3', () => spawnSync('python3', ['--version']).status === 0)
}

function requirePackage(name, hint, isThere) {
  if (isThere()) return
  if (process.platform !== 'linux' || process.getuid?.() !== 0)
    giveUp(`The tests need ${hint}. Install it: sudo apt-get install ${name}.`)
  say(`installing ${name}`)
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' }
  const quiet = { env, stdio: ['ignore', 'ignore', 'inherit'] }
  run('apt-get', ['update', '-qq'], quiet)
  if (!run('apt-get', ['install', '-y', '-qq', '--no-install-recommends', name], quiet) || !isThere())
    giveUp(`${name} could not be installed with apt-get. Install it by hand and run npm test again.`)
}

// By itself, so that it can run beside the installing of the libraries.
if (import.meta.url === pathToFileURL(process.argv[1] ?? '').href) {
  requireChromium()
  requirePython()
}
