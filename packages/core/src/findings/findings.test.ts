import { networkRules, portRules } from '../address'
import { termCatalogue } from '../terms'
import { byMatter } from './byMatter'
import type { Finding, Severity } from './finding'
import { bySeverity } from './order'
import { applyRule, type Rule } from './rule'

const about = { kind: 'port', id: 'p' } as const
const rule = (more: Partial<Rule<number>> = {}): Rule<number> => ({
  id: 'test.even',
  title: 'Odd',
  severity: 'will-not-work',
  summary: 'Only even ones.',
  appliesTo: (value) => value > 0,
  check: (value) => value % 2 === 0,
  found: String,
  expected: () => 'an even number',
  why: (value) => `${value} is odd.`,
  fixes: (value) => [{ label: `Use ${value + 1}`, sideEffect: '', edits: [] }],
  source: 'common practice, no source',
  ...more,
})

describe('a rule', () => {
  test('makes a finding only where it applies and is not kept', () => {
    expect(applyRule(rule(), 2, about)).toBeUndefined()
    expect(applyRule(rule(), -3, about)).toBeUndefined()
    expect(applyRule(rule(), 3, about)).toMatchObject({
      rule: 'test.even',
      found: '3',
      expected: 'an even number',
      why: '3 is odd.',
      subject: about,
    })
  })

  test('asks for reasons and ways out only when they are needed', () => {
    const never = () => {
      throw new Error('asked without need')
    }
    expect(applyRule(rule({ why: never, fixes: never, found: never }), 4, about)).toBeUndefined()
  })
})

test('unsafe comes first, then what will not work; otherwise the order stays', () => {
  const finding = (severity: Severity, id: string): Finding => ({
    rule: id,
    title: '',
    severity,
    subject: about,
    others: [],
    found: '',
    expected: '',
    why: '',
    fixes: [],
    source: '',
  })
  const list = [
    finding('worth-knowing', 'a'),
    finding('will-not-work', 'b'),
    finding('unsafe', 'c'),
    finding('will-not-work', 'd'),
  ]
  expect(bySeverity(list).map((each) => each.rule)).toEqual(['c', 'b', 'd', 'a'])
  expect(list.map((each) => each.rule)).toEqual(['a', 'b', 'c', 'd'])
})

describe('the catalogue', () => {
  const all = [...portRules, ...networkRules].map(({ id, title, summary, source }) => ({ id, title, summary, source }))

  test('has no id twice, and every rule says what it looks for and where that stands', () => {
    expect(new Set(all.map((each) => each.id)).size).toBe(all.length)
    for (const each of all) {
      expect(each.id).toMatch(/^[a-z]+\.[a-z-]+$/)
      expect(each.summary).toMatch(/\.$/)
      expect(each.source).toMatch(/RFC \d+|common practice|from memory/)
    }
  })

  test('every term explains itself and names its source', () => {
    expect(new Set(termCatalogue.map((term) => term.id)).size).toBe(termCatalogue.length)
    for (const term of termCatalogue) {
      expect(term.explain).toMatch(/\.$/)
      expect(term.source).not.toBe('')
      expect(term.parse({ text: term.example, origin: '' }).ok).toBe(true)
      for (const choice of term.choices ?? []) expect(term.parse({ text: choice.text, origin: '' }).ok).toBe(true)
    }
  })

  test('no word of alarm or blame in what people read', () => {
    const texts = [
      ...all.flatMap((each) => [each.title, each.summary]),
      ...termCatalogue.flatMap((term) => [term.name, term.explain]),
    ]
    for (const text of texts) expect(text).not.toMatch(/\b(error|fail(ed|ure)?|success|oops|invalid)\b|!/i)
  })
})

describe('findings of one matter', () => {
  const finding = (id: string, others: readonly string[], more: Partial<Finding> = {}): Finding => ({
    rule: 'address.duplicate',
    title: '',
    severity: 'will-not-work',
    subject: { kind: 'port', id },
    others: others.map((other) => ({ kind: 'port', id: other })),
    found: '10.20.40.60',
    expected: '',
    why: '',
    fixes: [],
    source: '',
    ...more,
  })
  const matters = (...findings: readonly Finding[]) =>
    byMatter(findings).map((matter) => matter.map(({ subject }) => subject.id).join(' '))

  test('each row of it is found, and they are told once', () => {
    expect(matters(finding('a', ['b', 'c']), finding('b', ['a', 'c']), finding('c', ['a', 'b']))).toEqual(['a b c'])
  })

  test('another rule, another thing found or other rows are another matter', () => {
    expect(matters(finding('a', ['b']), finding('b', ['a'], { rule: 'address.mac-twice' }))).toEqual(['a', 'b'])
    expect(matters(finding('a', ['b']), finding('b', ['a'], { found: '10.20.40.61' }))).toEqual(['a', 'b'])
    expect(matters(finding('a', ['b']), finding('b', ['c']))).toEqual(['a', 'b'])
    expect(matters(finding('a', []), finding('a', [], { subject: { kind: 'device', id: 'a' } }))).toEqual(['a', 'a'])
  })
})
