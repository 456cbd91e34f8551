import { findFaults, hopsShown, type PathFinding, type PathSeen } from '.'
import { playPath, singles, type Injected } from '../fixtures/injected'

const kindsAt = (finding: PathFinding, hop: string): readonly (readonly string[])[] =>
  finding.hops.find(({ name }) => name === hop)?.equals.map(({ faults }) => faults.map(({ kind }) => kind)) ?? []
const namesIt = (finding: PathFinding, hop: string, kinds: readonly string[]): boolean =>
  kindsAt(finding, hop).some((each) => [...each].sort().join() === [...kinds].sort().join())
const seeds = Array.from({ length: 20 }, (_, k) => 100 + k)

test('without a fault every hop is as planned, and how many looks were compared is said', () => {
  for (const seed of seeds) {
    const finding = findFaults(playPath(seed, []))
    expect(finding).toMatchObject({ verdict: 'as-planned', firstAt: undefined })
    expect(finding.hops.map(({ compared }) => compared)).toEqual([5, 5, 5, 5])
  }
})

test.each(singles)('$kind at the $hop: found there, and named', (fault) => {
  for (const seed of seeds) {
    const finding = findFaults(playPath(seed, [fault]))
    expect([seed, finding.firstAt]).toEqual([seed, fault.hop])
    expect([seed, kindsAt(finding, fault.hop)]).toEqual([seed, expect.arrayContaining([[fault.kind]])])
  }
})

const pairs = singles.flatMap((one, k) => singles.slice(k + 1).map((other): readonly Injected[] => [one, other]))
/** Behind what stands still or is zero a second fault cannot show itself. */
const hides = ['stale', 'zero', 'cleared', 'forced']
const atTwoHops = pairs.filter(([one, other]) => one && other && one.hop !== other.hop && !hides.includes(one.kind))

test('two faults at two hops: the first is where the first is, and both are named', () => {
  let [whole, all] = [0, 0]
  for (const faults of atTwoHops) {
    for (const seed of seeds.slice(0, 3)) {
      const finding = findFaults(playPath(seed, faults))
      expect([faults, finding.firstAt]).toEqual([faults, faults[0]?.hop])
      all += 1
      if (faults.every(({ hop, kind }) => namesIt(finding, hop, [kind]))) whole += 1
    }
  }
  expect(all).toBeGreaterThan(250)
  expect(whole / all).toBeGreaterThan(0.85)
})

test.each([
  ['memory', ['shift', 'order']],
  ['memory', ['other', 'order']],
  ['image', ['shift', 'order']],
  ['tag', ['order', 'scale']],
] as const)('two faults at once at the %s: %j', (hop, kinds) => {
  for (const seed of seeds) {
    const finding = findFaults(
      playPath(
        seed,
        kinds.map((kind) => ({ hop, kind })),
      ),
    )
    expect([seed, finding.firstAt]).toEqual([seed, hop])
    expect([seed, namesIt(finding, hop, kinds)]).toEqual([seed, true])
  }
})

test('what each hop shows: its own words with what they mean, or its number, as last seen', () => {
  const path = playPath(5, [])
  const shown = hopsShown(path)
  expect(shown.map(({ name, kind }) => [name, kind])).toEqual(path.hops.map(({ name, kind }) => [name, kind]))
  const [device] = path.hops
  const last = device?.kind === 'words' ? device.samples.at(-1)?.slice(3, 3 + path.registers) : undefined
  expect(shown[0]?.words).toEqual(last)
  // Without a fault all hops say the same, as near as a screen shows it.
  const values = shown.map(({ value = NaN }) => value)
  for (const value of values)
    expect(Math.abs(value - (values[0] ?? NaN))).toBeLessThan(0.01 * Math.abs(values[0] ?? NaN))
  const unseen = { ...path, hops: path.hops.map((hop) => ({ ...hop, samples: hop.samples.map(() => undefined) })) }
  expect(hopsShown(unseen).every(({ words, value }) => words === undefined && value === undefined)).toBe(true)
})

describe('what was not seen', () => {
  const without = (path: PathSeen, name: string): PathSeen => ({
    ...path,
    hops: path.hops.map((hop) =>
      hop.name !== name
        ? hop
        : hop.kind === 'words'
          ? { ...hop, samples: hop.samples.map(() => undefined) }
          : { ...hop, samples: hop.samples.map(() => undefined) },
    ),
  })

  test('a hop that nobody saw is not conclusive, and bridged', () => {
    const finding = findFaults(without(playPath(7, []), 'image'))
    expect(finding.verdict).toBe('not-conclusive')
    expect(finding.hops.map(({ name, verdict, against }) => [name, verdict, against])).toEqual([
      ['memory', 'as-planned', 'device'],
      ['image', 'not-conclusive', 'memory'],
      ['tag', 'as-planned', 'memory'],
      ['screen', 'as-planned', 'tag'],
    ])
    expect(findFaults({ ...playPath(7, []), hops: [] }).verdict).toBe('not-conclusive')
  })

  test('numbers that have nothing to do with their source are unexplained', () => {
    const path = playPath(9, [])
    const noise = path.hops.map((hop) =>
      hop.kind === 'value' && hop.name === 'tag'
        ? { ...hop, samples: [3.1, 977, 12.25, 40_111, 0.7], allowed: 1e-4 }
        : hop,
    )
    const finding = findFaults({ ...path, hops: noise })
    expect([finding.verdict, finding.firstAt]).toEqual(['unexplained', 'tag'])
  })

  test('how a tag takes the words otherwise is told with it, where that is what differs', () => {
    const swapped = findFaults(playPath(5, [{ hop: 'tag', kind: 'order' }])).hops.find(({ name }) => name === 'tag')
    expect(swapped?.equals.map(({ reading }) => reading && [reading.shift, reading.format.order === 'ABCD'])).toEqual([
      [0, false],
    ])
    const forced = findFaults(playPath(5, [{ hop: 'tag', kind: 'forced' }])).hops.find(({ name }) => name === 'tag')
    expect(forced?.equals.map(({ reading }) => reading)).toEqual([undefined])
  })

  test('a copy that runs one look behind is as planned', () => {
    const path = playPath(11, [])
    const late = path.hops.map((hop) =>
      hop.kind === 'words' && hop.name === 'image'
        ? { ...hop, samples: [hop.samples[0], ...hop.samples.slice(0, -1)] }
        : hop,
    )
    expect(findFaults({ ...path, hops: late }).hops.find(({ name }) => name === 'image')?.verdict).toBe('as-planned')
  })

  test('what is known to be held by hand is said to be', () => {
    const path = playPath(12, [{ hop: 'tag', kind: 'forced' }])
    const held = path.hops.map((hop) => (hop.kind === 'value' && hop.name === 'tag' ? { ...hop, isForced: true } : hop))
    const [first] = findFaults({ ...path, hops: held }).hops.find(({ name }) => name === 'tag')?.equals ?? []
    expect(first?.faults.map(({ say }) => say)).toEqual(['tag is held by hand'])
  })
})
