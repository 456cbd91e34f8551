import fc from 'fast-check'
import {
  lateness,
  retrySchools,
  silentOnes,
  simulate,
  underDamage,
  unitsToMove,
  usualTiming,
  type LineTiming,
  type Poll,
} from '.'
import { loadOf } from './polls'

const line: LineTiming = {
  ...usualTiming,
  settings: { baudRate: 9600, dataBits: 8, parity: 'none', stopBits: 1 },
  timeoutMs: 300,
}
const unit = (name: string, answer = 25, intervalMs = 0): Poll => ({
  name,
  bytes: { request: 8, answer },
  deviceMs: 10,
  intervalMs,
})
const polls = [unit('A'), unit('B', 45), unit('C')]
const question = { bitErrorRate: 0, silent: 1, olderThanMs: 1000, poll: polls[0] ?? unit('A') }

test('without damage tries cost nothing while all answer, and all of themselves while one is silent', () => {
  const schools = retrySchools(line, polls, question)
  const round = loadOf(line, polls).roundMs ?? NaN
  for (const { roundMs, olderShare } of schools) expect([roundMs, olderShare]).toEqual([round, 0])
  const silent = schools.map(({ silentRoundMs }) => silentRoundMs ?? NaN)
  // Each further try of the dead unit: its question of 8 bytes and the timeout.
  for (const k of [1, 2, 3]) expect((silent[k] ?? NaN) - (silent[k - 1] ?? NaN)).toBeCloseTo(300 + 80_000 / 9600, 6)
})

test('with damaged bits the round is what a simulated line says, for every number of tries', () => {
  const schools = retrySchools(line, polls, { ...question, bitErrorRate: 3e-4 })
  for (const retries of [0, 1, 2, 3]) {
    const seen = simulate({ ...line, retries }, polls, { seed: 12, milliseconds: 20_000_000, bitErrorRate: 3e-4 })
    expect((schools[retries]?.roundMs ?? NaN) / (seen.roundMs ?? NaN)).toBeCloseTo(1, 1.5)
  }
})

test('a value is late by its own failures, and by the tries of the others', () => {
  const share = (bitErrorRate: number, olderThanMs: number) =>
    retrySchools(line, polls, { ...question, bitErrorRate, olderThanMs }).map(({ olderShare }) => olderShare)
  // A round takes some 170 ms: nothing is ever older than 400 ms on a line that damages nothing.
  expect(share(0, 400)).toEqual([0, 0, 0, 0])
  // Just above a timeout tries delay everybody; far above it they mend.
  const [none = NaN, one = NaN] = share(1e-4, 400)
  expect(one).toBeGreaterThan(none)
  const far = share(3e-4, 800)
  expect(far[1]).toBeLessThan(far[0] ?? 0)
  // One poll alone, without tries: the closed form is exact there.
  const [alone] = retrySchools({ ...line, timeoutMs: 30 }, [question.poll], {
    ...question,
    bitErrorRate: 1e-3,
    olderThanMs: 150,
  })
  const { tryFails, meanMs } = underDamage({ ...line, timeoutMs: 30, retries: 0 }, question.poll, 1e-3)
  expect(alone?.olderShare).toBeCloseTo(lateness(150, meanMs, tryFails).olderShare, 1.3)
})

test('as few units as possible: held against every choice of units', () => {
  const some = fc.array(
    fc.tuple(fc.integer({ min: 1, max: 6 }), fc.integer({ min: 5, max: 255 }), fc.constantFrom(0, 0, 0, 2000)),
    { minLength: 1, maxLength: 8 },
  )
  fc.assert(
    fc.property(some, fc.integer({ min: 0, max: 2000 }), (made, wanted) => {
      const all = made.map(([name, answer, interval]) => unit(`U${name}`, answer, interval))
      const names = [...new Set(all.filter(({ intervalMs }) => intervalMs === 0).map(({ name }) => name))]
      const fits = (gone: readonly string[]) => {
        const { roundMs, isOverloaded } = loadOf(
          line,
          all.filter(({ name, intervalMs }) => intervalMs > 0 || !gone.includes(name)),
        )
        return !isOverloaded && (roundMs ?? 0) <= wanted
      }
      let fewest: number | undefined
      for (let mask = 0; mask < 2 ** names.length; mask += 1) {
        const gone = names.filter((_name, k) => mask & (1 << k))
        if (fits(gone) && (fewest === undefined || gone.length < fewest)) fewest = gone.length
      }
      const moved = unitsToMove(line, all, wanted)
      expect(moved?.length).toBe(fewest)
      if (moved) expect(fits(moved)).toBe(true)
    }),
    { numRuns: 300 },
  )
})

test('the costliest are the silent ones', () => {
  const [school] = retrySchools(line, polls, question)
  expect(school?.silentRoundMs).toBeCloseTo(
    loadOf({ ...line, retries: 0 }, silentOnes({ ...line, retries: 0 }, polls, 1)).roundMs ?? NaN,
    6,
  )
})
