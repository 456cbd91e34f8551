// Which libraries the built program needs when it runs, and under which licence each comes.
import { existsSync, readdirSync, readFileSync } from 'node:fs'
import { builtinModules } from 'node:module'
import { dirname, join, relative } from 'node:path'
import { root } from './prepare.mjs'

const readJson = (path) => JSON.parse(readFileSync(path, 'utf8'))
const nameOf = (specifier) =>
  specifier
    .split('/')
    .slice(0, specifier.startsWith('@') ? 2 : 1)
    .join('/')

/** Names of the libraries that a build leaves outside, from esbuild's metafile. */
export function librariesOf(metafile) {
  const names = Object.values(metafile.outputs)
    .flatMap((output) => output.imports)
    .filter(({ external, path }) => external && !path.startsWith('node:') && !builtinModules.includes(path))
    .map(({ path }) => nameOf(path))
  return [...new Set(names)].sort()
}

/** Where a library lies for one who asks for it from a folder: as Node looks for it. */
function placeOf(name, from) {
  for (let at = from; at.startsWith(root); at = dirname(at)) {
    const path = join(at, 'node_modules', name)
    if (existsSync(join(path, 'package.json'))) return path
  }
  return undefined
}

/**
 * Libraries by name with all that they need, each place once. What is optional and not installed here is left out: it is
 * for another platform, or for what is not used.
 */
export function closureOf(names, from = root) {
  const found = new Map()
  const visit = (name, at, optional) => {
    const path = placeOf(name, at)
    if (path === undefined) {
      if (optional) return
      throw new Error(`${name} is not installed, and ${relative(root, at) || 'the program'} needs it.`)
    }
    if (found.has(path)) return
    const about = readJson(join(path, 'package.json'))
    found.set(path, { path, name, version: about.version, licence: licenceOf(about) })
    const peers = Object.keys(about.peerDependencies ?? {}).filter(
      (peer) => !about.peerDependenciesMeta?.[peer]?.optional,
    )
    for (const each of Object.keys(about.dependencies ?? {}))
      visit(each, path, about.optionalDependencies?.[each] !== undefined)
    for (const each of [...Object.keys(about.optionalDependencies ?? {}), ...peers]) visit(each, path, true)
  }
  for (const name of names) visit(name, from, false)
  return [...found.values()].sort((a, b) => a.name.localeCompare(b.name))
}

const licenceOf = ({ license, licenses }) =>
  typeof license === 'string' ? license : (license?.type ?? licenses?.map(({ type }) => type).join(', ') ?? 'not said')

/** What is built into the page: the libraries of the page and of our own packages in it. */
export function bundledIntoPage() {
  const web = readJson(join(root, 'packages/web/package.json'))
  const names = Object.keys(web.dependencies ?? {}).filter((name) => !name.startsWith('@calm/'))
  return closureOf(names, join(root, 'packages/web'))
}

function licenceFile(path) {
  const name = readdirSync(path).find((each) => /^licen[cs]e/i.test(each))
  return name === undefined ? '' : readFileSync(join(path, name), 'utf8').trim()
}

/** The list of what is in it, then each licence in its own words. */
export function licencesText(beside, inPage) {
  const line = ({ name, version, licence }) => `  ${name} ${version}: ${licence}`
  const all = [...new Map([...beside, ...inPage].map((each) => [each.path, each])).values()]
  const texts = all.flatMap((each) => {
    const text = licenceFile(each.path)
    return text === '' ? [] : [`----- ${each.name} ${each.version}\n\n${text}`]
  })
  return [
    'Libraries beside the program:',
    ...beside.map(line),
    '',
    'Libraries built into the page:',
    ...inPage.map(line),
    '',
    ...texts,
    '',
  ].join('\n')
}
