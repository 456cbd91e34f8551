// npm run demo: installs what is missing, builds, fills in sample jobs, starts stand-ins and page, prints the address.
// npm run demo -- --fresh begins with the sample jobs as they were.
import { rmSync } from 'node:fs'
import { join } from 'node:path'
import { giveUp, installLibraries, requireNode, root, say } from './prepare.mjs'

const args = process.argv.slice(2)
const dataAt = args.indexOf('--data')
const dataDir = dataAt >= 0 && args[dataAt + 1] ? args[dataAt + 1] : join(root, '.data', 'demo')
const rest = args.filter((arg, k) => arg !== '--fresh' && (dataAt < 0 || (k !== dataAt && k !== dataAt + 1)))

console.log('\n  Calm Handshake, demo')
requireNode()
installLibraries()
const { buildAll } = await import('./build.mjs')
await buildAll({ say }).catch((reason) => giveUp(`The build stopped: ${reason.message}. Nothing was started.`))
if (args.includes('--fresh')) {
  say('putting the sample jobs back as they were')
  for (const end of ['', '-wal', '-shm']) rmSync(join(dataDir, `calm-handshake.sqlite${end}`), { force: true })
}
say('starting: sample jobs, stand-ins on loopback addresses, page')
process.argv.splice(2, process.argv.length, '--demo', '--data', dataDir, ...rest)
process.env.LOG_LEVEL ??= 'warn'
await import('../dist/server/main.mjs')
