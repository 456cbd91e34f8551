import { silentOnes } from './advice'
import { underDamage } from './damage'
import { loadOf, pollMs, type LineTiming, type Poll } from './polls'
import { simulate } from './simulate'

/** What one number of tries after the first makes of a line. */
export interface RetrySchool {
  readonly retries: number
  /** Mean round while every unit answers and bits are damaged now and then, ms; `undefined` where none gets a turn. */
  readonly roundMs: number | undefined
  /** The same with the costliest units silent, ms. */
  readonly silentRoundMs: number | undefined
  /**
   * Share of an hour in which the value of one poll is older than asked for, every unit answering: from a simulated
   * line. What delays a value is mostly the tries of the others, which no short formula follows.
   */
  readonly olderShare: number
}

/** The schools that are held against each other. */
const RETRIES = [0, 1, 2, 3] as const

/** What is asked of the line besides its polls. */
export interface SchoolQuestion {
  /** Chance of one bit to be damaged, each for itself. */
  readonly bitErrorRate: number
  /** Units in turn that are silent: those that cost most. */
  readonly silent: number
  readonly olderThanMs: number
  /** Whose value is looked at. */
  readonly poll: Poll
}

/**
 * No tries, one, two or three on the same line: a dead unit costs them all, a damaged frame is mended by them. Polls in
 * turn share what timed ones leave, with their mean times, as in `underDamage`.
 */
export function retrySchools(
  line: LineTiming,
  polls: readonly Poll[],
  question: SchoolQuestion,
): readonly RetrySchool[] {
  return RETRIES.map((retries) => {
    const at = { ...line, retries }
    const roundOf = (all: readonly Poll[]) => meanRound(at, all, question.bitErrorRate)
    const roundMs = roundOf(polls)
    return {
      retries,
      roundMs,
      silentRoundMs: roundOf(silentOnes(at, polls, question.silent)),
      olderShare: olderShareOf(at, polls, question),
    }
  })
}

const HOUR_MS = 3_600_000

function olderShareOf(
  line: LineTiming,
  polls: readonly Poll[],
  { bitErrorRate, olderThanMs, poll }: SchoolQuestion,
): number {
  const seen = simulate(line, polls, { seed: 1, milliseconds: HOUR_MS, bitErrorRate, olderThanMs })
  return seen.polls[polls.indexOf(poll)]?.olderShare ?? 1
}

/** Mean round of the polls in turn, with damaged bits, ms. */
function meanRound(line: LineTiming, polls: readonly Poll[], bitErrorRate: number): number | undefined {
  const mean = (poll: Poll) => underDamage(line, poll, bitErrorRate).meanMs
  const timed = polls.filter(({ intervalMs }) => intervalMs > 0)
  const inTurn = polls.filter(({ intervalMs }) => intervalMs === 0)
  const timedLoad = timed.reduce((sum, poll) => sum + mean(poll) / poll.intervalMs, 0)
  if (inTurn.length === 0 || timedLoad >= 1) return undefined
  return inTurn.reduce((sum, poll) => sum + mean(poll), 0) / (1 - timedLoad)
}

/**
 * Which units asked in turn would have to go to another line, so that a round of the rest is within the wanted time: as
 * few as possible, those that take longest first. `undefined` where not even an empty line would do (timed polls fill it).
 * Units are told by the name of their polls.
 */
export function unitsToMove(line: LineTiming, polls: readonly Poll[], wantedMs: number): readonly string[] | undefined {
  const taken = new Map<string, number>()
  for (const poll of polls)
    if (poll.intervalMs === 0) taken.set(poll.name, (taken.get(poll.name) ?? 0) + pollMs(line, poll))
  const longest = [...taken].sort(([, one], [, other]) => other - one).map(([name]) => name)
  for (let count = 0; count <= longest.length; count += 1) {
    const moved = longest.slice(0, count)
    const rest = polls.filter(({ name, intervalMs }) => intervalMs > 0 || !moved.includes(name))
    const { roundMs, isOverloaded } = loadOf(line, rest)
    if (isOverloaded) return undefined
    if ((roundMs ?? 0) <= wantedMs) return moved
  }
  return undefined
}
