// npm test: everything that must hold; ends with `N passed, N failed`.
import { mkdirSync, readFileSync, rmSync } from 'node:fs'
import { constants } from 'node:os'
import { join } from 'node:path'
import { installLibraries, requireNode, root, runBeside, runShown, say } from './prepare.mjs'

requireNode()
// What comes from Debian and what comes from npm is fetched side by side.
const machine = runBeside(process.execPath, [join(root, 'tools', 'debian.mjs')])
installLibraries()
const { good: isMachineReady, told: ofMachine } = await machine
if (ofMachine.trim() !== '') console.log(ofMachine)
if (!isMachineReady) process.exit(1)

const results = join(root, '.cache', 'results')
rmSync(results, { recursive: true, force: true })
mkdirSync(results, { recursive: true })
let passed = 0
let failed = 0
const count = (good, bad) => {
  passed += good
  failed += bad
}
const step = async (name, command, args) => {
  const { good, told } = await runBeside('npx', [command, ...args], constants.priority.PRIORITY_LOW)
  say(good ? name : `${name}: failed`)
  if (told.trim() !== '') console.log(told)
  count(good ? 1 : 0, good ? 0 : 1)
  return good
}
const readJson = (name) => {
  try {
    return JSON.parse(readFileSync(join(results, name), 'utf8'))
  } catch {
    return undefined
  }
}

// Both kinds of tests wait now and then. What else is to be checked runs beside them, one after the other and at a lower
// priority, so that it takes that time and no other.
say('unit tests; beside them building, lint, types, formatting, docs/rules.md')
const built = step('building', 'tsx', ['tools/build.mjs'])
const checked = built
  .then(() => step('lint', 'eslint', ['.', '--max-warnings', '0']))
  .then(() => step('types', 'tsc', ['-p', 'tsconfig.json']))
  .then(() => step('formatting', 'prettier', ['--check', '--log-level', 'warn', '.']))
  .then(() => step('docs/rules.md is up to date', 'tsx', ['tools/rulesDoc.ts', '--check']))

const unitFile = join(results, 'unit.json')
// A test that fails may leave a port or a process open, and the run must end all the same.
await runShown('npx', ['jest', '--silent', '--forceExit', '--json', `--outputFile=${unitFile}`])
const unit = readJson('unit.json')
if (unit) count(unit.numPassedTests, unit.numFailedTests + unit.numRuntimeErrorTestSuites)
else count(0, 1)

if (await built) {
  say('the interface, driven headless')
  await runShown('npx', ['playwright', 'test', '--config', 'e2e/playwright.config.ts'])
  const driven = readJson('e2e.json')
  if (driven) {
    count(driven.stats.expected + driven.stats.flaky, driven.stats.unexpected)
    if (driven.stats.flaky > 0) say(`${driven.stats.flaky} of them passed only the second time`)
  } else count(0, 1)
}
await checked

console.log(`\n${passed} passed, ${failed} failed`)
process.exit(failed === 0 ? 0 : 1)
