import {
  compareReading,
  decodeValue,
  encodeValue,
  scaled,
  byteOrders,
  toleranceText,
  type ByteOrder,
  type Comparison,
  type Tolerance,
  type ValueFormat,
} from '../values'
import type { Observation } from './observation'
import { ageText } from './stale'

/** What is asked of a path: the reference, how far off it may be, and how the device sends the value. */
export interface PathQuestion {
  readonly hops: readonly Observation[]
  readonly reference: number | undefined
  readonly tolerance: Tolerance
  readonly unit: string
  /** The device's own format and scale, for explaining what a later hop made of the same words. */
  readonly format: ValueFormat | undefined
  readonly scale: number
  /** Added after the scale; none where it is left out. */
  readonly offset?: number | undefined
}

export interface HopJudgement {
  readonly observation: Observation
  readonly state: 'inside' | 'outside' | 'no-value' | 'no-reference' | 'stale'
  readonly comparison: Comparison | undefined
  /** The first hop where the number is wrong. */
  readonly turnsWrongHere: boolean
  readonly say: string
}

export interface PathJudgement {
  readonly hops: readonly HopJudgement[]
  /**
   * `proven`: every hop has a value inside the tolerance. `at-odds`: one is outside. `open`: something is missing, or
   * stands still: what was so some time ago is not so now.
   */
  readonly verdict: 'proven' | 'at-odds' | 'open'
  /** One sentence: the verdict and its reason. */
  readonly say: string
  /** Milliseconds between the earliest and the latest of the observations; `undefined` with fewer than two. */
  readonly apart: number | undefined
}

/** Follows a value from hop to hop and says where it turns wrong, and why where that can be computed. */
export function judgePath(question: PathQuestion): PathJudgement {
  let wrongBefore = false
  const hops = question.hops.map((observation, index): HopJudgement => {
    const comparison =
      observation.value !== undefined && observation.staleMs === undefined && question.reference !== undefined
        ? compareReading(observation.value, question.reference, question.tolerance)
        : undefined
    const state =
      observation.value === undefined
        ? 'no-value'
        : observation.staleMs !== undefined
          ? 'stale'
          : comparison === undefined
            ? 'no-reference'
            : comparison.verdict === 'inside'
              ? 'inside'
              : 'outside'
    const turnsWrongHere = state === 'outside' && !wrongBefore
    if (state === 'outside') wrongBefore = true
    return { observation, state, comparison, turnsWrongHere, say: hopSentence(question, index, state, turnsWrongHere) }
  })
  const seen = question.hops.flatMap((hop) => (hop.seen === undefined || hop.value === undefined ? [] : [hop.seen]))
  return {
    hops,
    verdict: hops.some((hop) => hop.state === 'outside')
      ? 'at-odds'
      : hops.length > 0 && hops.every((hop) => hop.state === 'inside')
        ? 'proven'
        : 'open',
    say: pathSentence(question, hops),
    apart: seen.length > 1 ? Math.max(...seen) - Math.min(...seen) : undefined,
  }
}

function hopSentence(
  question: PathQuestion,
  index: number,
  state: HopJudgement['state'],
  turnsWrongHere: boolean,
): string {
  const hop = question.hops[index]
  if (!hop || state === 'no-value') return hop?.silence || 'No value yet.'
  if (state === 'stale') return `Stale: read ${ageText(hop.staleMs ?? 0)} ago, and not since.`
  if (state === 'no-reference') return 'Nothing to compare with yet.'
  if (state === 'inside') return `Inside ${toleranceText(question.tolerance, question.unit)}`
  return turnsWrongHere ? 'The number turns wrong here' : 'Wrong from the hop before'
}

function pathSentence(question: PathQuestion, hops: readonly HopJudgement[]): string {
  const wrong = hops.findIndex((hop) => hop.turnsWrongHere)
  if (wrong === 0)
    return `${question.hops[0]?.at} itself does not show the reference. Look at the device, its register and its wiring first.`
  if (wrong > 0) return explainTurn(question, wrong)
  const silent = hops.find((hop) => hop.state === 'no-value' || hop.state === 'stale')
  if (silent) return `${silent.observation.at}: ${silent.say}`
  if (question.reference === undefined) return 'Type a reference: what an independent instrument or display shows.'
  return `All ${hops.length} hops show the reference within ${toleranceText(question.tolerance, question.unit)}.`
}

function explainTurn(question: PathQuestion, wrong: number): string {
  const hop = question.hops[wrong]
  const order = hop ? orderTaken(question, hop) : undefined
  if (order) return `The words arrive whole. ${hop?.at} takes them as ${byteOrders[order].name}.`
  return `Right up to ${question.hops[wrong - 1]?.at}; wrong at ${hop?.at}.`
}

/**
 * The byte order by which a hop made its wrong value from the device's words: put back the other way round, that value
 * is the reference again. Works on the hop's own value, so it does not matter that the device's value moved meanwhile.
 */
function orderTaken(question: PathQuestion, hop: Observation): ByteOrder | undefined {
  const { format, scale, offset = 0, reference, tolerance } = question
  const { value } = hop
  if (!format || value === undefined || reference === undefined || scale === 0) return undefined
  // Swapped words make very small numbers of most values: near 0 that explains everything, and so nothing.
  if (compareReading(0, reference, tolerance).verdict === 'inside') return undefined
  return (Object.keys(byteOrders) as ByteOrder[]).find((order) => {
    if (order === format.order) return false
    const words = encodeValue({ kind: 'number', value: (value - offset) / scale }, { ...format, order })
    const meant = words.ok ? decodeValue(words.value, format) : undefined
    const number = meant?.ok ? scaled(meant.value, { scale, offset }) : undefined
    return number !== undefined && compareReading(number, reference, tolerance).verdict === 'inside'
  })
}
