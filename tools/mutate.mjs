// npm run mutate: breaks the folders of core that judge, one small change at a time, and sees whether a test notices.
// npm run mutate -- values terms does these only. By hand, not in CI: it takes a while.
import { spawnSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { installLibraries, requireNode, root, say } from './prepare.mjs'

const FOLDERS = [
  'address',
  'modbus',
  'values',
  'terms',
  'path',
  'ladder',
  'settle',
  'explain',
  'packing',
  'serial',
  'age',
  'message',
  'checks',
  'store',
  'security',
]
requireNode()
installLibraries()
const asked = process.argv.slice(2)
const folders = asked.length > 0 ? asked : FOLDERS
let poor = 0
for (const folder of folders) {
  say(`breaking ${folder}`)
  spawnSync('npx', ['stryker', 'run'], {
    cwd: root,
    env: { ...process.env, MUTATE: folder },
    stdio: ['ignore', 'ignore', 'inherit'],
    shell: process.platform === 'win32',
  })
  const report = JSON.parse(readFileSync(join(root, '.cache', 'mutation', `${folder}.json`), 'utf8'))
  const mutants = Object.values(report.files).flatMap((file) => file.mutants)
  const of = (...states) => mutants.filter((mutant) => states.includes(mutant.status)).length
  const noticed = of('Killed', 'Timeout')
  const total = noticed + of('Survived', 'NoCoverage')
  const share = (100 * noticed) / Math.max(1, total)
  if (share < 85) poor += 1
  console.log(`  ${folder.padEnd(10)} ${noticed} of ${total} noticed, ${share.toFixed(1)} %`)
}
process.exit(poor === 0 ? 0 : 1)
