import { kindFacts, shippedKinds, type DeviceKindFacts } from '@calm/core/kind'
import { kindFileOf, readKindFile } from './kindFile'

const own: DeviceKindFacts = { ...kindFacts('drive', []), id: 'own-drive', name: 'Our drive' }
/** A file with one kind, changed by hand. */
const file = (change: (content: Record<string, unknown>, kind: Record<string, unknown>) => void = () => undefined) => {
  const content = JSON.parse(JSON.stringify(kindFileOf([own])))
  change(content, content.kinds[0])
  return JSON.stringify(content)
}
const menuWith = (more: object) => ({ ...kindFacts('ups-card', []).menu, ...more })
const problems = (text: string) => {
  const reading = readKindFile(text)
  return reading.ok ? [] : reading.problems
}

describe('a file of kinds', () => {
  test('is read as it was written', () => expect(readKindFile(file())).toEqual({ ok: true, kinds: [own] }))

  test.each(shippedKinds.map((kind) => [kind.id, kind] as const))(
    '%s, copied under an id of its own, is read',
    (id, kind) => {
      const copy = { ...kind, id: `own-${id}` }
      expect(readKindFile(JSON.stringify(kindFileOf([copy])))).toEqual({ ok: true, kinds: [copy] })
    },
  )

  test.each<[string, (content: Record<string, unknown>, kind: Record<string, unknown>) => void, string]>([
    ['a field that is none', (_, kind) => Object.assign(kind, { colour: 1 }), 'kinds[0].colour'],
    ['a field that is missing', (_, kind) => delete kind.role, 'kinds[0].role'],
    ['a role that is none', (_, kind) => Object.assign(kind, { role: 'king' }), 'kinds[0].role'],
    ['a block that ends before it begins', (_, kind) => Object.assign(kind, { block: [30, 20] }), 'kinds[0].block'],
    ['an octet that is none', (_, kind) => Object.assign(kind, { block: [1, 256] }), 'kinds[0].block[1]'],
    ['seconds below nothing', (_, kind) => Object.assign(kind, { startUpSeconds: -1 }), 'kinds[0].startUpSeconds'],
    ['a way of setting that is none', (_, kind) => Object.assign(kind, { setting: 'magic' }), 'kinds[0].setting'],
    [
      'a default address that is none',
      (_, kind) => Object.assign(kind, { defaultAddress: { kind: 'fixed', address: '192.168.1', prefix: 24 } }),
      'kinds[0].defaultAddress.address',
    ],
    [
      'a lamp whose pattern is none',
      (_, kind) => Object.assign(kind, { lamps: [{ lamp: 'Run', pattern: { shape: 'wavy' }, means: 'runs' }] }),
      'kinds[0].lamps[0].pattern.shape',
    ],
    [
      'a lamp that flashes without a rate',
      (_, kind) =>
        Object.assign(kind, { lamps: [{ lamp: 'Run', pattern: { shape: 'flashing', colour: 'red' }, means: 'runs' }] }),
      'kinds[0].lamps[0].pattern.hertz',
    ],
    [
      'a lamp without a pattern',
      (_, kind) => Object.assign(kind, { lamps: [{ lamp: 'Run', means: 'runs' }] }),
      'kinds[0].lamps[0].pattern',
    ],
    [
      'a menu whose line nobody can read',
      (_, kind) => Object.assign(kind, { menu: menuWith({ line: 'fast' }) }),
      'kinds[0].menu.line',
    ],
    [
      'a menu woken by a key that is none',
      (_, kind) => Object.assign(kind, { menu: menuWith({ wake: 'x' }) }),
      'kinds[0].menu.wake',
    ],
    [
      'a menu that types what no job can fill in',
      (_, kind) => Object.assign(kind, { menu: menuWith({ back: [{ prompt: 'x', answer: '{colour}' }] }) }),
      'kinds[0].menu.back[0].answer',
    ],
    [
      'a task without an answer',
      (_, kind) => Object.assign(kind, { menu: menuWith({ tasks: [{ id: 'save', name: 'Save', answers: [] }] }) }),
      'kinds[0].menu.tasks[0].answers',
    ],
    [
      'a value that is none',
      (_, kind) => Object.assign(kind, { menu: menuWith({ reads: [{ label: 'colour', is: 'colour' }] }) }),
      'kinds[0].menu.reads[0].is',
    ],
    ['the id of one that ships', (_, kind) => Object.assign(kind, { id: 'drive' }), 'kinds[0].id'],
    ['an id with capitals', (_, kind) => Object.assign(kind, { id: 'Own Drive' }), 'kinds[0].id'],
    ['a version that is not known', (content) => Object.assign(content, { version: 9 }), 'version'],
    ['another format', (content) => Object.assign(content, { format: 'list' }), 'format'],
    ['no kind at all', (content) => Object.assign(content, { kinds: [] }), 'kinds'],
    ['one kind twice', (content) => Object.assign(content, { kinds: [own, own] }), 'kinds[1]'],
  ])('with %s is refused at its place', (_what, change, where) => {
    const found = problems(file(change))
    expect(found.map((problem) => problem.where)).toContain(where)
    for (const problem of found) expect(problem.what).not.toBe('')
  })

  test.each([
    ['a table', 'Tag;IP'],
    ['half of itself', file().slice(0, 90)],
    ['null', 'null'],
    ['a list', '[]'],
    ['too large', `"${'x'.repeat(1024 * 1024)}"`],
  ])('that is %s is refused, not a crash', (_what, text) => expect(problems(text).length).toBeGreaterThan(0))
})
