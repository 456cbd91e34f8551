// The browser for tests and pictures: Debian's own.
import { existsSync } from 'node:fs'
import { giveUp, run, say } from './prepare.mjs'

export const chromiumPath = process.env.CHROMIUM ?? '/usr/bin/chromium'

/** Makes sure that there is a browser; installs it where that is allowed, else says what to install. */
export function requireChromium() {
  if (existsSync(chromiumPath)) return
  if (process.platform !== 'linux' || process.getuid?.() !== 0) {
    giveUp(
      'The tests need Chromium at /usr/bin/chromium. Install it: sudo apt-get install chromium (or set CHROMIUM to its path).',
    )
  }
  say('installing chromium')
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' }
  const quiet = { env, stdio: ['ignore', 'ignore', 'inherit'] }
  run('apt-get', ['update', '-qq'], quiet)
  if (
    !run('apt-get', ['install', '-y', '-qq', '--no-install-recommends', 'chromium'], quiet) ||
    !existsSync(chromiumPath)
  ) {
    giveUp('Chromium could not be installed with apt-get. Install it by hand and run npm test again.')
  }
}
