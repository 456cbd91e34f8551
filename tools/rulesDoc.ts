// Writes docs/rules.md from the rule catalogue; with --check only says whether it is up to date.
import { readFileSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { macTwice, networkRules, portRules } from '@calm/core/address'
import { busRules } from '@calm/core/bus'
import { severities, type Rule } from '@calm/core/findings'
import { deviceRules } from '@calm/core/lineUp'
import { openKinds } from '@calm/core/handOver'
import { rungs } from '@calm/core/ladder'
import { pointRules } from '@calm/core/points'
import { checkFacts, checkIds, settledBy, stepKinds, type CheckId, type StepKind } from '@calm/core/procedure'
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

const checksFile = join(dirname(file), 'checks.md')
const rows = (lines: readonly (readonly string[])[]) => lines.map((cells) => `| ${cells.join(' | ')} |`)

const checks = [
  '# What can turn green, and what it looked at',
  '',
  'Made from the lists of checks, steps and rungs by `npm run docs`; do not edit by hand. With nothing to compare, or with something left that had to be, a check is not conclusive. What it rests on is kept with the step; when that changes it has not passed any more.',
  '',
  '## Checks',
  '',
  '| id | says | looks at | asks the plant | rests on | counts since | holds |',
  '|---|---|---|---|---|---|---|',
  ...rows(
    Object.entries(checkFacts).map(([id, { looksAt, how, restsOn, since, lasts }]) => [
      `\`${id}\``,
      checkIds[id as CheckId],
      looksAt,
      how === 'asks' ? 'yes' : 'no',
      restsOn.join(', ') || 'nothing that could change',
      since || 'it is looked at now',
      lasts === 'moment' ? 'until the next step' : 'until that changes',
    ]),
  ),
  '',
  '## Steps',
  '',
  '| kind | green when |',
  '|---|---|',
  ...rows(Object.entries(stepKinds).map(([kind, name]) => [name, settledBy[kind as StepKind]])),
  '',
  '## Rungs of a ladder',
  '',
  '| rung | proven when | falls when one of these changes |',
  '|---|---|---|',
  ...rows(
    rungs.map(({ name, proof, restsOn }) => [
      name,
      proof,
      restsOn.length === 0
        ? 'nothing of the plan'
        : [...new Set(restsOn.map((fact) => fact.split('.')[0] ?? ''))].join(', '),
    ]),
  ),
  '',
  '## Hand-over',
  '',
  'Ready is a job with none of these open:',
  '',
  ...Object.entries(openKinds).map(([kind, { counts }]) => `- \`${kind}\`: ${counts}`),
  '',
].join('\n')

const files = [
  [file, text, 'docs/rules.md is not what the rule catalogue says'],
  [checksFile, checks, 'docs/checks.md is not what the lists of checks and steps say'],
] as const

if (!process.argv.includes('--check')) {
  for (const [path, content] of files) writeFileSync(path, content)
  console.log(
    `${portRules.length + 1 + networkRules.length + busRules.length + deviceRules.length + pointRules.length} rules, ${termCatalogue.length} terms, ${Object.keys(checkFacts).length} checks written to docs`,
  )
} else
  for (const [path, content, say] of files)
    if (readFileSync(path, 'utf8') !== content) {
      console.error(`${say}. Run: npm run docs`)
      process.exitCode = 1
    }
