// npm run shots: retakes docs/screenshots from the demo data, at 1280 x 800.
import { installLibraries, requireNode, run, root } from './prepare.mjs'
import { requireChromium } from './debian.mjs'

requireNode()
installLibraries()
requireChromium()
const { buildAll } = await import('./build.mjs')
await buildAll()
process.exit(run('npx', ['tsx', 'e2e/src/pictures.ts'], { cwd: root }) ? 0 : 1)
