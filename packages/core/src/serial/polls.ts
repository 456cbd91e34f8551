import type { FrameSizes } from './frames'
import type { SerialSettings } from './settings'
import { frameGapMs, wireMs } from './times'

/** One thing that the master asks again and again. */
export interface Poll {
  readonly name: string
  readonly bytes: FrameSizes
  /** From the end of the question to the first character of the answer, beside the silence that ends the question, ms. */
  readonly deviceMs: number
  /** From due instant to due instant, ms; 0: as often as the line allows. */
  readonly intervalMs: number
  /** Sent to all: nobody answers. */
  readonly isBroadcast?: boolean
  /** Nobody is there: each try costs the timeout. */
  readonly isSilent?: boolean
}

/** How the master of a line works. */
export interface LineTiming {
  readonly settings: SerialSettings
  /** Counted from the end of the question, ms. */
  readonly timeoutMs: number
  /** Tries after the first; they follow at once on the same poll. */
  readonly retries: number
  /** What a gateway takes for itself, once for each try, ms. */
  readonly gatewayMs: number
  /** Pause after a broadcast, so that every unit has done what it was told, ms. */
  readonly turnaroundMs: number
  /** A damaged answer is asked again at once; otherwise it costs the timeout, as silence does. */
  readonly asksAgainAtOnce: boolean
}

/** Values that masters come with. Common practice, no source. */
export const usualTiming: Omit<LineTiming, 'settings'> = {
  timeoutMs: 1000,
  retries: 1,
  gatewayMs: 0,
  turnaroundMs: 100,
  asksAgainAtOnce: false,
}

/** A question that is answered: from the first bit asked to the silence after the answer, ms. */
export function exchangeMs({ settings, gatewayMs, turnaroundMs }: LineTiming, poll: Poll): number {
  const asked = gatewayMs + wireMs(settings, poll.bytes.request)
  if (poll.isBroadcast) return asked + turnaroundMs
  return asked + frameGapMs(settings) + poll.deviceMs + wireMs(settings, poll.bytes.answer) + frameGapMs(settings)
}

/** One try that nobody answers, ms. */
export const silentTryMs = ({ settings, gatewayMs, timeoutMs }: LineTiming, poll: Poll): number =>
  gatewayMs + wireMs(settings, poll.bytes.request) + timeoutMs

/** What one poll takes as the line is: answered, or silent through all its tries, ms. */
export const pollMs = (line: LineTiming, poll: Poll): number =>
  poll.isSilent && !poll.isBroadcast ? (1 + line.retries) * silentTryMs(line, poll) : exchangeMs(line, poll)

/** What a line carries. */
export interface LineLoad {
  /** Share of the time that polls with an interval need; 1 and above: they cannot be kept. */
  readonly timedLoad: number
  /** Share of the time in which the line is busy. */
  readonly load: number
  /** Mean time of one round of the polls that are asked as often as the line allows; `undefined` where none gets a turn. */
  readonly roundMs: number | undefined
  /** Timed polls whose interval is shorter than the line can keep. */
  readonly isOverloaded: boolean
}

/**
 * The mean over a long time, exact where no frame is damaged: timed polls go before the others, and what they leave is
 * shared by those in turn.
 */
export function loadOf(line: LineTiming, polls: readonly Poll[]): LineLoad {
  const timed = polls.filter(({ intervalMs }) => intervalMs > 0)
  const inTurn = polls.filter(({ intervalMs }) => intervalMs === 0)
  const timedLoad = timed.reduce((sum, poll) => sum + pollMs(line, poll) / poll.intervalMs, 0)
  const isOverloaded = timedLoad >= 1
  const round = inTurn.reduce((sum, poll) => sum + pollMs(line, poll), 0)
  return {
    timedLoad,
    load: inTurn.length > 0 ? 1 : Math.min(1, timedLoad),
    roundMs: inTurn.length === 0 || isOverloaded ? undefined : round / (1 - timedLoad),
    isOverloaded,
  }
}

/** Age of a value at the master, ms. */
export interface ValueAge {
  /** When it has just come. */
  readonly best: number
  /** The mean over time. */
  readonly typical: number
  /** Just before the next one comes. */
  readonly worst: number
}

/**
 * How old a value is at the master: from the moment the device put it into its answer. A poll in turn comes once a
 * round; a timed one once an interval, and late by the longest poll that stands in its way.
 *
 * @returns `undefined` where it is never answered
 */
export function ageOf(line: LineTiming, polls: readonly Poll[], poll: Poll): ValueAge | undefined {
  if (poll.isBroadcast || poll.isSilent) return undefined
  const { roundMs, isOverloaded } = loadOf(line, polls)
  const period = poll.intervalMs > 0 ? (isOverloaded ? undefined : poll.intervalMs) : roundMs
  if (period === undefined) return undefined
  const best = wireMs(line.settings, poll.bytes.answer) + frameGapMs(line.settings)
  const others = polls.filter((each) => each !== poll).map((each) => pollMs(line, each))
  const inTheWay = poll.intervalMs > 0 ? Math.max(0, ...others) : 0
  return { best, typical: best + period / 2, worst: best + period + inTheWay }
}
