/** Debian's Chromium; another path may be given. */
export const chromiumPath = process.env.CHROMIUM ?? '/usr/bin/chromium'

/** Headless, without anything that reaches out. The user-data folder is fresh: Playwright makes one for each launch. */
export const chromiumFlags = [
  '--headless',
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
]
