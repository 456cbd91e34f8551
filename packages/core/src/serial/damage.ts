import { characterBits, wireMs } from './times'
import { exchangeMs, silentTryMs, type LineTiming, type Poll } from './polls'

/** What damaged bits do to one poll. */
export interface PollUnderDamage {
  /** Chance that one try fails. */
  readonly tryFails: number
  /** Chance that all tries fail: the value stays as old as it is. */
  readonly pollFails: number
  /** Mean time of the poll with its tries, ms. */
  readonly meanMs: number
}

/** Chance that at least one of so many bytes is damaged, when each bit is with this chance, alone. */
export const damagedChance = (line: LineTiming, bytes: number, bitErrorRate: number): number =>
  1 - (1 - bitErrorRate) ** (bytes * characterBits(line.settings))

/**
 * A poll on a line that damages bits. A damaged question costs the timeout, a damaged answer too, unless the line says
 * that it is asked again at once. Exact for bits that are damaged each for itself; a burst does less harm than as many
 * single bits.
 */
export function underDamage(line: LineTiming, poll: Poll, bitErrorRate: number): PollUnderDamage {
  if (poll.isBroadcast) return { tryFails: 0, pollFails: 0, meanMs: exchangeMs(line, poll) }
  const tries = 1 + line.retries
  const silent = silentTryMs(line, poll)
  if (poll.isSilent) return { tryFails: 1, pollFails: 1, meanMs: tries * silent }
  const asked = damagedChance(line, poll.bytes.request, bitErrorRate)
  const answered = (1 - asked) * damagedChance(line, poll.bytes.answer, bitErrorRate)
  const tryFails = asked + answered
  const good = exchangeMs(line, poll)
  const meanFailure =
    tryFails === 0 ? 0 : (asked * silent + answered * (line.asksAgainAtOnce ? good : silent)) / tryFails
  const pollFails = tryFails ** tries
  // Failed tries there are as many as the sum of the chances that the first, the second ... fails too.
  const failures = tryFails === 1 ? tries : (tryFails * (1 - pollFails)) / (1 - tryFails)
  return { tryFails, pollFails, meanMs: failures * meanFailure + (1 - pollFails) * good }
}

/** How often a value is older than asked for. */
export interface Lateness {
  /** Share of the time in which more has passed since the last good answer ended. */
  readonly olderShare: number
  /** Share of the updates that come later than that after the one before. */
  readonly lateUpdates: number
}

/**
 * A value that comes every period, each time with the same chance to fail: exact where a period is always as long; with
 * tries that take time the mean period is put in, and it is close as long as failures are rare.
 * @param periodMs from one poll to the next
 * @param pollFails chance that a poll brings nothing
 */
export function lateness(olderThanMs: number, periodMs: number, pollFails: number): Lateness {
  if (pollFails >= 1) return { olderShare: 1, lateUpdates: 1 }
  const good = 1 - pollFails
  const missed = Math.floor(olderThanMs / periodMs)
  const lateUpdates = pollFails ** missed
  const beyond = (missed + 1 / good) * periodMs - olderThanMs
  return { olderShare: (lateUpdates * beyond * good) / periodMs, lateUpdates }
}

/** From the end of a question to the last character of its answer, of the poll for which that is longest, ms. */
export const longestAnswerMs = (line: LineTiming, polls: readonly Poll[]): number =>
  Math.max(
    0,
    ...polls
      .filter(({ isBroadcast }) => !isBroadcast)
      .map((poll) => poll.deviceMs + wireMs(line.settings, poll.bytes.answer)),
  )
