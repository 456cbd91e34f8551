import { shippedRuns, type RunFacts } from '@calm/core/procedure'
import { orderPut, settingsPut, stepSettling } from '../walk'
import { readRunFile, runFileOf } from '.'

const own = (
  change: (run: Record<string, unknown> & { steps: Record<string, unknown>[] }) => void = () => undefined,
) => {
  const run = { ...structuredClone(shippedRuns[0]), id: 'own-run' } as unknown as Parameters<typeof change>[0]
  change(run)
  return JSON.stringify(runFileOf([run as unknown as RunFacts]))
}

describe('a file of runs', () => {
  test.each(shippedRuns.map((run) => [run.id, run] as const))('%s goes out and comes in as it was', (_id, run) => {
    const copy = { ...run, id: `own-${run.id}` }
    const reading = readRunFile(JSON.stringify(runFileOf([copy])))
    expect(reading).toEqual({ ok: true, runs: [copy] })
  })

  test.each<[string, Parameters<typeof own>[0], string]>([
    ['a phase that is none', (run) => ((run.steps[0] ?? {}).phase = 'later'), 'runs[0].steps[0].phase'],
    ['a way of setting that is none', (run) => (run.ways = ['by hope']), 'runs[0].ways[0]'],
    ['a check that is none', (run) => ((run.steps[0] ?? {}).check = 'oracle'), 'runs[0].steps[0].check'],
    ['two steps of one id', (run) => ((run.steps[1] ?? {}).id = run.steps[0]?.id), 'runs[0].steps[1]'],
    ['a field that is not documented', (run) => (run.colour = 'green'), 'runs[0].colour'],
    ['no steps', (run) => (run.steps = []), 'runs[0].steps'],
  ])('%s is told with its place', (_words, change, where) => {
    const reading = readRunFile(own(change))
    expect(!reading.ok && reading.problems.map((problem) => problem.where)).toContain(where)
  })

  test('all problems are told at once', () => {
    const reading = readRunFile(
      own((run) => {
        run.ways = ['by hope']
        ;(run.steps[0] ?? {}).phase = 'later'
      }),
    )
    expect(!reading.ok && reading.problems.length).toBeGreaterThanOrEqual(2)
  })

  test('another format, a newer version, a file that is too large', () => {
    for (const text of [
      JSON.stringify({ format: 'x', version: 1, runs: [] }),
      own().replace('"version":1', '"version":2'),
      ' '.repeat(1024 * 1024 + 1),
    ])
      expect(readRunFile(text).ok).toBe(false)
  })
})

describe('what is sent of a walk', () => {
  const id = '6f1c2b1e-8f5e-4b8e-9f5b-000000000001'
  const bad = (
    schema: { validate: (value: unknown, options: object) => { error?: Error | undefined } },
    value: unknown,
  ) => schema.validate(value, { convert: false }).error?.message ?? 'taken'

  test('an action names what it concerns, in its own form', () => {
    const put = (action: unknown) => bad(orderPut, { version: 1, order: [action] })
    const host = { address: 0x0a142815, prefix: 24 }
    expect(put({ kind: 'set', deviceId: id, to: host, parking: false, pending: true })).toBe('taken')
    expect(put({ kind: 'laptop', into: host, leaves: null })).toBe('taken')
    expect(put({ kind: 'group-on' })).not.toBe('taken')
    expect(put({ kind: 'set', deviceId: id, to: { address: -1, prefix: 24 }, parking: false, pending: true })).not.toBe(
      'taken',
    )
    expect(put({ kind: 'fly', deviceId: id })).not.toBe('taken')
  })

  test('settings are whole and within their limits', () => {
    const settings = {
      holds: 1,
      people: 1,
      preference: 'seconds',
      laptopChange: 45,
      cableMove: 30,
      groups: {},
      leftOut: [],
      runs: {},
    }
    const put = (change: object) => bad(settingsPut, { version: 1, settings: { ...settings, ...change } })
    expect(put({})).toBe('taken')
    expect(put({ groups: { Q14: { mustStayLive: true, seconds: 40 } } })).toBe('taken')
    for (const change of [
      { holds: 3 },
      { people: 0 },
      { laptopChange: -1 },
      { groups: { Q14: { colour: 1 } } },
      { runs: { [id]: 'No Id' } },
    ])
      expect(put(change)).not.toBe('taken')
  })

  test('a step is settled in one of four ways, with the version that was seen', () => {
    const said = { stepKey: 'group-on Q1 1 / on', state: 'done', note: '', seen: 0 }
    expect(bad(stepSettling, said)).toBe('taken')
    for (const change of [{ state: 'waiting' }, { seen: -1 }, { note: 'x'.repeat(2_001) }, { stepKey: '' }])
      expect(bad(stepSettling, { ...said, ...change })).not.toBe('taken')
  })
})
