// npm start: for real work. Data lies in the user's own data folder, or in --data DIR.
import { giveUp, installLibraries, requireNode, say } from './prepare.mjs'

requireNode()
installLibraries()
const { buildAll } = await import('./build.mjs')
await buildAll({ say }).catch((reason) => giveUp(`The build stopped: ${reason.message}. Nothing was started.`))
await import('../dist/server/main.mjs')
