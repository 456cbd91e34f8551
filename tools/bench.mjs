// npm run bench: how fast it is, printed as a table. Nothing here passes or fails.
import { installLibraries, requireNode, run } from './prepare.mjs'

requireNode()
installLibraries()
const { buildAll } = await import('./build.mjs')
await buildAll()
process.exit(run('npx', ['tsx', 'tools/measure.ts']) ? 0 : 1)
