/** What the closed forms say, against a simulated line. */
import { lateness, loadOf, simulate, underDamage, type LineTiming, type Poll } from '.'
import { lineAt as line, pollOf as poll } from './fixtures'

const three = [poll('a', 2), poll('b', 20), poll('c', 60)]

/** How far apart two figures are, as a share of the first. */
const apart = (one: number, other: number) => Math.abs(one - other) / one

test.each<[string, LineTiming, readonly Poll[]]>([
  ['in turn', line('9600 8E1'), three],
  ['in turn, one silent', line('19200 8N1', { retries: 2 }), [...three, poll('d', 1, { isSilent: true })]],
  [
    'timed before in turn',
    line('9600 8E1', { gatewayMs: 4 }),
    [poll('t', 4, { intervalMs: 250 }), poll('u', 4, { intervalMs: 700 }), ...three],
  ],
  ['a broadcast among them', line('38400 8E1'), [poll('w', 0, { isBroadcast: true, intervalMs: 5_000 }), ...three]],
])('%s: round and load within 1 %%', (_what, at, polls) => {
  const closed = loadOf(at, polls)
  const seen = simulate(at, polls, { seed: 7, milliseconds: 3_600_000 })
  expect(closed.roundMs).toBeDefined()
  expect(apart(closed.roundMs ?? 0, seen.roundMs ?? 0)).toBeLessThan(0.01)
  expect(apart(closed.load, seen.load)).toBeLessThan(0.01)
})

test('timed polls alone: the load within 1 %, and each as often as its interval says', () => {
  const polls = [poll('t', 4, { intervalMs: 200 }), poll('u', 30, { intervalMs: 900 })]
  const at = line('9600 8E1')
  const seen = simulate(at, polls, { seed: 1, milliseconds: 3_600_000 })
  expect(apart(loadOf(at, polls).load, seen.load)).toBeLessThan(0.01)
  expect(seen.polls.map(({ asked }) => Math.round(3_600 / (asked / 1_000)))).toEqual([200, 900])
})

test.each([0, 1, 2, 3])('damaged bits with %i retries: mean time and share of failures within 2 %%', (retries) => {
  for (const asksAgainAtOnce of [false, true]) {
    const at = line('9600 8E1', { retries, asksAgainAtOnce, timeoutMs: 300 })
    const one = poll('a', 30)
    const closed = underDamage(at, one, 4e-4)
    const [seen] = simulate(at, [one], { seed: 11, milliseconds: 40_000_000, bitErrorRate: 4e-4 }).polls
    expect(apart(closed.meanMs, seen?.meanMs ?? 0)).toBeLessThan(0.02)
    const failed = 1 - (seen?.answered ?? 0) / (seen?.asked ?? 1)
    // Of rare failures few are seen: a bound of four standard deviations.
    const bound = 4 * Math.sqrt(closed.pollFails / (seen?.asked ?? 1))
    expect(Math.abs(closed.pollFails - failed)).toBeLessThan(bound)
  }
})

test('nothing damaged, nobody there, sent to all', () => {
  const at = line('9600 8E1')
  expect(underDamage(at, poll('a', 2), 0)).toMatchObject({ tryFails: 0, pollFails: 0 })
  expect(underDamage(at, poll('a', 2, { isSilent: true }), 0)).toMatchObject({ tryFails: 1, pollFails: 1 })
  expect(underDamage(at, poll('a', 2, { isBroadcast: true }), 0.5)).toMatchObject({ pollFails: 0 })
  expect(lateness(100, 10, 1)).toEqual({ olderShare: 1, lateUpdates: 1 })
  expect(lateness(0, 10, 0)).toEqual({ olderShare: 1, lateUpdates: 1 })
  expect(lateness(10, 10, 0)).toEqual({ olderShare: 0, lateUpdates: 0 })
  expect(lateness(5, 10, 0)).toEqual({ olderShare: 0.5, lateUpdates: 1 })
})

test.each([150, 400, 900])('older than %i ms: the share of time, within 3 %% of it or 0.002', (olderThanMs) => {
  // Asked again at once, a failed try takes as long as a good one: without retries every period is as long.
  const at = line('9600 8E1', { retries: 0, asksAgainAtOnce: true })
  const one = poll('a', 30, { bytes: { request: 0, answer: 65 } })
  const { pollFails, meanMs } = underDamage(at, one, 1e-3)
  const closed = lateness(olderThanMs, meanMs, pollFails).olderShare
  const [seen] = simulate(at, [one], { seed: 5, milliseconds: 40_000_000, bitErrorRate: 1e-3, olderThanMs }).polls
  expect(Math.abs(closed - (seen?.olderShare ?? 0))).toBeLessThan(Math.max(0.002, 0.03 * closed))
})

test('the same seed gives the same run, another one another', () => {
  const run = (seed: number) => simulate(line('9600 8E1'), three, { seed, milliseconds: 100_000, bitErrorRate: 1e-3 })
  expect(run(3)).toEqual(run(3))
  expect(run(3)).not.toEqual(run(4))
})
