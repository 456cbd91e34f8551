// Writes docs/rules.md from the rule catalogue; with --check only says whether it is up to date.
import { readFileSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { macTwice, networkRules, portRules } from '@calm/core/address'
import { busRules } from '@calm/core/bus'
import { severities, type Rule } from '@calm/core/findings'
import { deviceRules } from '@calm/core/lineUp'
import { pointRules } from '@calm/core/points'
import { termCatalogue } from '@calm/core/terms'

const file = join(dirname(dirname(fileURLToPath(import.meta.url))), 'docs', 'rules.md')

const ruleLine = <T>(rule: Rule<T>) =>
  `| \`${rule.id}\` | ${rule.title} | ${severities[rule.severity].words.toLowerCase()} | ${rule.summary} | ${rule.source} |`

const table = <T>(title: string, rules: readonly Rule<T>[]) =>
  [
    `## ${title}`,
    '',
    '| id | title | severity | what is looked for, and why | source |',
    '|---|---|---|---|---|',
    ...rules.map(ruleLine),
    '',
  ].join('\n')

const terms = [
  '## Terms that both ends must agree on',
  '',
  '| id | name | what it is | source |',
  '|---|---|---|---|',
  ...termCatalogue.map((term) => `| \`${term.id}\` | ${term.name} | ${term.explain} | ${term.source} |`),
  '',
].join('\n')

const points = [
  '## At every point of a device',
  '',
  '| id | title | what is looked for, and why | source |',
  '|---|---|---|---|',
  ...pointRules.map((rule) => `| \`${rule.id}\` | ${rule.title} | ${rule.summary} | ${rule.source} |`),
  '',
].join('\n')

const text = [
  '# Rules',
  '',
  'Made from the rule catalogue by `npm run docs`; do not edit by hand.',
  '',
  table('At every port that has an address', portRules),
  table('At every port with a hardware address', [macTwice]),
  table('At every network', networkRules),
  table('At every node of a bus, and at units behind a gateway', busRules),
  table('At every device', deviceRules),
  points,
  terms,
].join('\n')

if (!process.argv.includes('--check')) {
  writeFileSync(file, text)
  console.log(
    `${portRules.length + 1 + networkRules.length + busRules.length + deviceRules.length + pointRules.length} rules, ${termCatalogue.length} terms written to docs/rules.md`,
  )
} else if (readFileSync(file, 'utf8') !== text) {
  console.error('docs/rules.md is not what the rule catalogue says. Run: npm run docs')
  process.exit(1)
}
