// npm run release: one folder, and a zip of it, that starts with Node alone: nothing to install, no network.
import { spawn } from 'node:child_process'
import { cpSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { createServer } from 'node:net'
import { tmpdir } from 'node:os'
import { basename, join, relative } from 'node:path'
import { buildAll, serverBuild } from './build.mjs'
import { bundledIntoPage, closureOf, librariesOf, licencesText } from './libraries.mjs'
import { giveUp, installLibraries, requireNode, root, say } from './prepare.mjs'

requireNode()
installLibraries()
await buildAll({ say }).catch((reason) => giveUp(`The build stopped: ${reason.message}. Nothing was made.`))

const { version } = JSON.parse(readFileSync(join(root, 'package.json'), 'utf8'))
const platform = `${process.platform}-${process.arch}`
const folder = join(root, 'release', `calm-handshake-${version}-${platform}`)
rmSync(join(root, 'release'), { recursive: true, force: true })
mkdirSync(folder, { recursive: true })

say('the built program')
for (const part of ['server', 'web']) {
  cpSync(join(root, 'dist', part), join(folder, 'dist', part), {
    recursive: true,
    filter: (path) => !path.endsWith('.map'),
  })
}

say('the libraries that it needs when it runs')
const esbuild = await import('esbuild')
const { metafile } = await esbuild.build({ ...serverBuild, write: false, metafile: true })
const libraries = closureOf(librariesOf(metafile))
for (const { path } of libraries) {
  cpSync(path, join(folder, relative(root, path)), {
    recursive: true,
    // What lies nested in it is copied where it is needed; maps and types are for those who change a library.
    filter: (from) => from === path || (basename(from) !== 'node_modules' && !/\.(map|d\.[cm]?ts)$/.test(from)),
  })
}

writeFileSync(
  join(folder, 'calm-handshake.mjs'),
  `// Starts Calm Handshake: node calm-handshake.mjs [--port N] [--data FOLDER] [--demo]
const [major = 0, minor = 0] = process.versions.node.split('.').map(Number)
if (major < 20 || (major === 20 && minor < 19)) {
  console.error(\`This needs Node.js 20.19 or newer; here is \${process.versions.node}.\`)
  process.exit(1)
}
if (process.platform !== '${process.platform}' || process.arch !== '${process.arch}') {
  console.error(\`This was made for ${platform}; here is \${process.platform}-\${process.arch}. READ-ME.txt says how one for here is made.\`)
  process.exit(1)
}
await import('./dist/server/main.mjs')
`,
)
writeFileSync(join(folder, 'LICENCES.txt'), licencesText(libraries, bundledIntoPage()))
cpSync(join(root, 'docs', 'release.md'), join(folder, 'READ-ME.txt'))
writeFileSync(join(folder, 'package.json'), `${JSON.stringify({ private: true, type: 'module', version })}\n`)

const files = (at) =>
  readdirSync(at, { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile())
    .map((entry) => join(entry.parentPath, entry.name))
const all = files(folder)
const megabytes = (bytes) => `${(bytes / 1024 / 1024).toFixed(1)} MB`
const size = all.reduce((sum, path) => sum + statSync(path).size, 0)

say('the zip')
const { zipSync } = await import('fflate')
const zipped = zipSync(
  Object.fromEntries(all.map((path) => [relative(join(root, 'release'), path), readFileSync(path)])),
  { level: 6 },
)
writeFileSync(`${folder}.zip`, zipped)

say('tried from a folder without the sources')
const seconds = await tryIt()
console.log(
  `\n  ${relative(root, folder)}: ${all.length} files, ${megabytes(size)}, ${libraries.length} libraries; ` +
    `zip ${megabytes(zipped.length)}; started in ${seconds.toFixed(1)} s\n`,
)

/** Starts a copy elsewhere, with no registry to reach, and asks it for its page and its jobs. */
async function tryIt() {
  const elsewhere = mkdtempSync(join(tmpdir(), 'calm-release-'))
  cpSync(folder, join(elsewhere, 'app'), { recursive: true })
  const port = await freePort()
  const started = performance.now()
  const child = spawn(
    process.execPath,
    ['calm-handshake.mjs', '--data', join(elsewhere, 'data'), '--port', String(port)],
    {
      cwd: join(elsewhere, 'app'),
      stdio: ['ignore', 'ignore', 'inherit'],
      env: { PATH: '/nowhere', HOME: elsewhere, LOG_LEVEL: 'warn' },
    },
  )
  try {
    const ask = (path) => fetch(`http://127.0.0.1:${port}${path}`).catch(() => undefined)
    for (let k = 0; k < 300 && !(await ask('/api/health'))?.ok; k += 1) {
      if (child.exitCode !== null) giveUp(`The release ended with ${child.exitCode} when it was tried.`)
      await new Promise((done) => setTimeout(done, 50))
    }
    const took = (performance.now() - started) / 1000
    const page = await (await ask('/'))?.text()
    const jobs = await (await ask('/api/jobs'))?.json()
    if (!page?.includes('<title>') || !Array.isArray(jobs)) giveUp('The release starts, but does not show its page.')
    return took
  } finally {
    child.kill('SIGTERM')
    await new Promise((done) => (child.exitCode === null ? child.once('exit', done) : done()))
    rmSync(elsewhere, { recursive: true, force: true })
  }
}

function freePort() {
  return new Promise((done) => {
    const probe = createServer().listen(0, '127.0.0.1', () => {
      const { port } = probe.address()
      probe.close(() => done(port))
    })
  })
}
