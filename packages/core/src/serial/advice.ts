import { frameGapMs } from './times'
import { loadOf, pollMs, type LineTiming, type Poll } from './polls'
import { longestAnswerMs } from './damage'
import { usualRates } from './settings'

/** What could be set on a line, worked out from what is asked of it. */
export interface LineAdvice {
  /** The lowest usual rate at which a round is within the wanted time; `undefined` where none is. */
  readonly lowestRate: number | undefined
  /** Twice the time that the longest answer takes as it is known, ms: shorter, and good answers may be missed. */
  readonly leastTimeoutMs: number
  /**
   * The longest timeout at which a round is within the wanted time while so many units are silent, ms; `undefined` where
   * none is that long.
   */
  readonly mostTimeoutMs: number | undefined
}

/** How many times the longest answer a timeout should be at least: some units answer late now and then. An assumption. */
const RESERVE = 2

/**
 * @param wantedMs how long a round may take
 * @param silentCount units in turn that may be silent at once: those that cost most
 */
export function adviceFor(line: LineTiming, polls: readonly Poll[], wantedMs: number, silentCount: number): LineAdvice {
  const roundAt = (change: Partial<LineTiming>) => loadOf({ ...line, ...change }, polls).roundMs ?? Infinity
  const lowestRate = usualRates.find((baudRate) => roundAt({ settings: { ...line.settings, baudRate } }) <= wantedMs)
  const leastTimeoutMs = Math.ceil(RESERVE * (longestAnswerMs(line, polls) + frameGapMs(line.settings)))
  const roundWith = (timeoutMs: number) => {
    const at = { ...line, timeoutMs }
    return loadOf(at, silentOnes(at, polls, silentCount)).roundMs ?? Infinity
  }
  const within = (timeoutMs: number) => roundWith(timeoutMs) <= wantedMs
  return {
    lowestRate,
    leastTimeoutMs,
    mostTimeoutMs: within(leastTimeoutMs) ? largest(within, leastTimeoutMs, 60_000) : undefined,
  }
}

/**
 * The same polls with so many of those in turn silent: the ones by which the round grows most, so that no other choice
 * of as many makes it longer.
 */
export function silentOnes(line: LineTiming, polls: readonly Poll[], count: number): readonly Poll[] {
  const grows = (poll: Poll) => pollMs(line, { ...poll, isSilent: true }) - pollMs(line, poll)
  const silent = polls
    .filter(({ intervalMs, isBroadcast }) => intervalMs === 0 && !isBroadcast)
    .sort((one, other) => grows(other) - grows(one))
    .slice(0, count)
  return polls.map((poll) => (silent.includes(poll) ? { ...poll, isSilent: true } : poll))
}

/** The largest whole number up to `most` for which it still holds; it holds for `least`, and never again once it does not. */
function largest(holds: (value: number) => boolean, least: number, most: number): number {
  let [low, high] = [least, most + 1]
  while (high - low > 1) {
    const middle = Math.floor((low + high) / 2)
    if (holds(middle)) low = middle
    else high = middle
  }
  return low
}
