import { ageAlong, changesFor, judgeAge, type AgeStage, type PlannedStage, type Viewer } from '.'
import { dice } from '../explain/fixtures'

const stages: readonly AgeStage[] = [
  { kind: 'looks', name: 'poll', everyMs: 500 },
  { kind: 'takes', name: 'request', leastMs: 30, mostMs: 50 },
  { kind: 'looks', name: 'task', everyMs: 20 },
  { kind: 'looks', name: 'display', everyMs: 10_000 },
]

test('parts and their sum; a page that refreshes every 10 s adds up to 10 s', () => {
  const use = ageAlong(stages, 'moment-of-use')
  expect([use.best, use.typical, use.worst, use.dominant]).toEqual([30, 5300, 10_570, 'display'])
  // At any instant the display also holds what it shows.
  expect(ageAlong(stages, 'any-instant').worst).toBe(20_570)
  expect(ageAlong([], 'any-instant')).toMatchObject({ best: 0, worst: 0, dominant: undefined })
})

/** A value is followed through clocks with a phase drawn for each; when looked at, its age is read off. */
function followed(seed: number, viewer: Viewer): number {
  const roll = dice(seed)
  let now = 0
  let refresh: (after: number) => number = (after) => after
  for (const stage of stages) {
    if (stage.kind === 'takes') now += roll.between(stage.leastMs, stage.mostMs)
    if (stage.kind !== 'looks') continue
    const phase = roll.next() * stage.everyMs
    refresh = (after) => phase + Math.ceil((after - phase) / stage.everyMs) * stage.everyMs
    now = refresh(now)
  }
  // Somebody looks at any instant until the next refresh.
  return viewer === 'any-instant' ? now + roll.next() * 10_000 : now
}

test.each(['any-instant', 'moment-of-use'] as const)('beside 20 000 values followed one by one: %s', (viewer) => {
  const ages = Array.from({ length: 20_000 }, (_, k) => followed(k * 7919 + 1, viewer))
  const age = ageAlong(stages, viewer)
  expect(Math.min(...ages)).toBeGreaterThanOrEqual(age.best)
  expect(Math.max(...ages)).toBeLessThanOrEqual(age.worst)
  const mean = ages.reduce((a, b) => a + b, 0) / ages.length
  expect(Math.abs(mean - age.typical)).toBeLessThan(100)
  const median = [...ages].sort((a, b) => a - b)[10_000] ?? 0
  expect(Math.abs(median - age.typical)).toBeLessThan(250)
})

test('a stage that follows adds the same every time', () => {
  const locked: readonly AgeStage[] = [
    { kind: 'looks', name: 'poll', everyMs: 100 },
    { kind: 'follows', name: 'task', afterMs: 5 },
  ]
  expect(ageAlong(locked, 'moment-of-use')).toMatchObject({ best: 5, typical: 55, worst: 105 })
})

test('what one change would help: the stage named would meet it alone, and no slower one would', () => {
  const changes = changesFor(stages, 'moment-of-use', 1000)
  expect(changes.map(({ name }) => name)).toEqual(['display', 'poll', 'task'])
  expect(changes[0]).toMatchObject({ fromMs: 10_000, toMs: 430, leftMs: 570 })
  // Neither poll nor task alone is enough.
  expect(changes.slice(1).map(({ toMs }) => toMs)).toEqual([undefined, undefined])
  const changed = stages.map((stage) =>
    stage.kind === 'looks' && stage.name === 'display' ? { ...stage, everyMs: 430 } : stage,
  )
  expect(ageAlong(changed, 'moment-of-use').worst).toBe(1000)
  const held = changesFor(stages, 'any-instant', 1000)[0]
  expect(held?.toMs).toBe(215)
})

describe('held against what is asked', () => {
  const path = (task: number | undefined, display: number | undefined): readonly PlannedStage[] => [
    { kind: 'looks', name: 'the poll', everyMs: 1000 },
    { kind: 'takes', name: 'request and answer', mostMs: 50 },
    { kind: 'looks', name: 'the task', everyMs: task },
    { kind: 'looks', name: 'the display', everyMs: display },
  ]
  test('all known: 1000 + 50 + 20 + twice 500 is 2070 at worst', () => {
    expect(judgeAge(path(20, 500), 'any-instant', 2070)).toMatchObject({ verdict: 'within', missing: [] })
    const late = judgeAge(path(20, 500), 'any-instant', 2069)
    expect([late.verdict, late.age.worst, late.change?.name]).toEqual(['late', 2070, 'the poll'])
    expect(judgeAge(path(20, 500), 'any-instant', null).verdict).toBe('open')
  })
  test('something is not known: too old already is told, young enough never', () => {
    const open = judgeAge(path(undefined, undefined), 'any-instant', 1050)
    // The hold of a display that nobody knows is no hold of the poll.
    expect([open.verdict, open.age.worst, open.missing]).toEqual(['open', 1050, ['the task', 'the display']])
    const late = judgeAge(path(undefined, 500), 'any-instant', 2000)
    expect([late.verdict, late.age.worst, late.change]).toEqual(['late', 2050, undefined])
    expect(judgeAge(path(0, 0), 'any-instant', 1050)).toMatchObject({ verdict: 'within', missing: [] })
  })
})
