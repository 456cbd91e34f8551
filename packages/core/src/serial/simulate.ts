import { damagedChance } from './damage'
import { exchangeMs, silentTryMs, type LineTiming, type Poll } from './polls'

/** What was seen on a simulated line. */
export interface Simulated {
  /** Simulated time, ms. */
  readonly milliseconds: number
  /** Share of it in which the line was busy. */
  readonly load: number
  /** Mean time of a round of the polls in turn; `undefined` where none was finished. */
  readonly roundMs: number | undefined
  readonly polls: readonly SimulatedPoll[]
}

interface SimulatedPoll {
  readonly name: string
  readonly asked: number
  readonly answered: number
  /** Mean time that one poll took with all its tries, ms. */
  readonly meanMs: number
  /** Share of the time in which more than `olderThanMs` had passed since the last good answer ended. */
  readonly olderShare: number
}

interface Options {
  readonly seed: number
  readonly milliseconds: number
  readonly bitErrorRate?: number
  readonly olderThanMs?: number
}

interface Running {
  readonly poll: Poll
  due: number
  asked: number
  answered: number
  spent: number
  lastGood: number
  older: number
}

/**
 * A line, poll after poll, with damaged bits from a seeded chance: the same seed gives the same run. What the closed
 * forms say is checked against it.
 */
export function simulate(line: LineTiming, polls: readonly Poll[], options: Options): Simulated {
  const { seed, milliseconds, bitErrorRate = 0, olderThanMs = Infinity } = options
  const chance = chanceOf(seed)
  const all: Running[] = polls.map((poll) => ({ poll, due: 0, asked: 0, answered: 0, spent: 0, lastGood: 0, older: 0 }))
  const timed = all.filter(({ poll }) => poll.intervalMs > 0)
  const inTurn = all.filter(({ poll }) => poll.intervalMs === 0)
  let now = 0
  let busy = 0
  let turn = 0
  while (now < milliseconds) {
    const due = timed.filter((each) => each.due <= now).sort((one, other) => one.due - other.due)[0]
    const next = due ?? inTurn[turn % Math.max(1, inTurn.length)]
    if (!next) {
      now = Math.min(...timed.map((each) => each.due))
      continue
    }
    // An interval counts from due instant to due instant, however late the poll came.
    if (due) due.due += due.poll.intervalMs
    else turn += 1
    const { took, good } = ask(line, next.poll, bitErrorRate, chance)
    now += took
    busy += took
    next.asked += 1
    next.spent += took
    if (!good) continue
    next.older += Math.max(0, now - next.lastGood - olderThanMs)
    next.lastGood = now
    next.answered += 1
  }
  const rounds = inTurn.length === 0 ? 0 : turn / inTurn.length
  return {
    milliseconds: now,
    load: busy / now,
    roundMs: rounds < 1 ? undefined : now / rounds,
    polls: all.map(({ poll, asked, answered, spent, older, lastGood }) => ({
      name: poll.name,
      asked,
      answered,
      meanMs: spent / Math.max(1, asked),
      olderShare: (older + Math.max(0, now - lastGood - olderThanMs)) / now,
    })),
  }
}

/** One poll with its tries. */
function ask(line: LineTiming, poll: Poll, bitErrorRate: number, chance: () => number) {
  if (poll.isBroadcast) return { took: exchangeMs(line, poll), good: true }
  const askedDamaged = damagedChance(line, poll.bytes.request, bitErrorRate)
  const answerDamaged = damagedChance(line, poll.bytes.answer, bitErrorRate)
  let took = 0
  for (let left = 1 + line.retries; left > 0; left -= 1) {
    const isHeard = !poll.isSilent && chance() >= askedDamaged
    if (isHeard && chance() >= answerDamaged) return { took: took + exchangeMs(line, poll), good: true }
    took += isHeard && line.asksAgainAtOnce ? exchangeMs(line, poll) : silentTryMs(line, poll)
  }
  return { took, good: false }
}

/** Numbers from 0 to below 1, the same for the same seed: a 32-bit linear congruential generator, from memory. */
function chanceOf(seed: number): () => number {
  let state = seed >>> 0
  return () => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0
    // The upper bits are the good ones of such a generator.
    return ((state >>> 8) & 0xffffff) / 0x1000000
  }
}
