// Builds the server (one file, our packages bundled in) and the page. Does nothing when nothing changed.
import { createHash } from 'node:crypto'
import { brotliCompressSync, constants, gzipSync } from 'node:zlib'
import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath, pathToFileURL } from 'node:url'

export const root = dirname(dirname(fileURLToPath(import.meta.url)))
const stamp = join(root, 'dist', 'built')

/** A digest of every source that the build reads. */
function sourceDigest() {
  const hash = createHash('sha256')
  const visit = (folder) => {
    for (const entry of readdirSync(folder, { withFileTypes: true }).sort((a, b) => a.name.localeCompare(b.name))) {
      if (['node_modules', 'dist'].includes(entry.name) || /\.test\.tsx?$/.test(entry.name)) continue
      const path = join(folder, entry.name)
      if (entry.isDirectory()) visit(path)
      else hash.update(path.slice(root.length)).update(readFileSync(path))
    }
  }
  visit(join(root, 'packages'))
  hash.update(readFileSync(join(root, 'package-lock.json')))
  return hash.digest('hex')
}

/** How the server is built: one file with our own packages in it; all libraries stay outside. */
export const serverBuild = {
  entryPoints: {
    main: join(root, 'packages/server/src/main.ts'),
    'workbook.worker': join(root, 'packages/server/src/tables/workbook.worker.ts'),
  },
  outdir: join(root, 'dist/server'),
  outExtension: { '.js': '.mjs' },
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  sourcemap: true,
  logLevel: 'warning',
  // Our own packages are TypeScript and are bundled; everything else comes from node_modules.
  plugins: [
    {
      name: 'keep-libraries-outside',
      setup(build) {
        build.onResolve({ filter: /^[^./]/ }, ({ path }) =>
          path.startsWith('@calm/') ? undefined : { path, external: true },
        )
      },
    },
  ],
}

/** Compresses what the page fetches once, for every time that it is fetched. Browsers take brotli from this machine only. */
function compressAssets(folder) {
  for (const name of readdirSync(folder).filter((file) => /\.(js|css)$/.test(file))) {
    const content = readFileSync(join(folder, name))
    // 11 is two in a hundred smaller, and takes as long again.
    const params = { [constants.BROTLI_PARAM_QUALITY]: 10, [constants.BROTLI_PARAM_SIZE_HINT]: content.length }
    writeFileSync(join(folder, `${name}.br`), brotliCompressSync(content, { params }))
    writeFileSync(join(folder, `${name}.gz`), gzipSync(content, { level: 9 }))
  }
}

/** @returns true when something was built, false when the last build still fits */
export async function buildAll({ say = () => {} } = {}) {
  const digest = sourceDigest()
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === digest) return false
  say('building the server and the page')
  const esbuild = await import('esbuild')
  await esbuild.build(serverBuild)
  const { build } = await import('vite')
  await build({ root: join(root, 'packages/web'), logLevel: 'warn' })
  compressAssets(join(root, 'dist/web/assets'))
  mkdirSync(dirname(stamp), { recursive: true })
  writeFileSync(stamp, digest)
  return true
}

if (import.meta.url === pathToFileURL(process.argv[1] ?? '').href) {
  console.log((await buildAll({ say: console.log })) ? 'built' : 'nothing changed since the last build')
}
