import {
  byteTypes,
  decodeValue,
  isByteType,
  registersOf,
  reorder,
  type ByteOrder,
  type RawValue,
  type ValueFormat,
} from '../values'
import { chanceOf } from './chance'
import { linesFor, type Factor, type Line } from './factors'
import { bandOf, isInside, risesAsTold, type Seen } from './fits'
import { formatsFor, sameOrder, type TriedFormat } from './formats'
import { expectedAt, type Question, type Sample } from './question'

/** Registers earlier or later that are tried. */
export const FARTHEST = 2

/** What differs from the plan. */
export type Aspect = 'shift' | 'type' | 'order' | 'scale'

/** One way to read the registers that gives what was expected at every sample. */
export interface Explanation {
  /** Registers later than planned; negative: earlier. */
  readonly shift: number
  readonly format: ValueFormat
  readonly registers: number
  readonly line: Line
  /** What is done to the planned scale, as data: explanations travel between a worker and its page. */
  readonly factor: Omit<Factor, 'line'>
  readonly aspects: readonly Aspect[]
  /** How many of them are met seldom. */
  readonly uncommon: number
  /**
   * The value moved, and its lowest word stood still: the word may belong to something else. In a float or a large
   * number the highest word alone makes nearly the whole value, so that the reading is nearly right by accident.
   */
  readonly isStrained: boolean
  /** The value at each sample, as this reads it. */
  readonly values: readonly number[]
  /** Chance that registers which mean something else fit as well. */
  readonly chance: number
}

/** All that was found for one point. */
export interface Search {
  /** `right`: the plan itself fits. `explained`, `unexplained`: as they say. `not-conclusive`: nothing to compare. */
  readonly verdict: 'right' | 'explained' | 'unexplained' | 'not-conclusive'
  /** What the plan reads at each sample; `undefined` where its registers were not given or hold no such value. */
  readonly planned: readonly (number | undefined)[]
  /** Simplest first. */
  readonly explanations: readonly Explanation[]
  /** Ways that were compared, and ways whose registers were not given. */
  readonly compared: number
  readonly outside: number
  /** Why there was nothing to compare. */
  readonly missing: string
}

/** What a reading costs that fits only with a word which stood still: more than any number of aspects. */
const STRAIN = 1000

/** Fewer aspects first, then fewer that are met seldom; one that is strained after all others. */
export const costOf = (each: Pick<Explanation, 'aspects' | 'uncommon' | 'isStrained'>): number =>
  costOfStrain(each) + each.aspects.length * 100 + each.uncommon

export const costOfStrain = ({ isStrained }: Pick<Explanation, 'isStrained'>): number => (isStrained ? STRAIN : 0)

const numberOf = (raw: RawValue): number | undefined =>
  raw.kind === 'number' || raw.kind === 'whole'
    ? Number(raw.value)
    : raw.kind === 'bool'
      ? Number(raw.value)
      : undefined

/** So many words from a place on; `undefined` where one of them was not given. */
export function wordsAt(
  words: readonly (number | undefined)[],
  from: number,
  count: number,
): readonly number[] | undefined {
  if (from < 0 || from + count > words.length) return undefined
  const own: number[] = []
  for (let k = from; k < from + count; k += 1) {
    const word = words[k]
    if (word === undefined) return undefined
    own.push(word)
  }
  return own
}

/** The raw number of a format so many registers from the planned place, in every sample. */
function rawAt(
  question: Question,
  shift: number,
  tried: Pick<TriedFormat, 'format' | 'registers'>,
): readonly number[] | 'outside' | 'no-number' {
  const from = question.plan.address + shift - question.first
  const raws: number[] = []
  for (const { words } of question.samples) {
    const own = wordsAt(words, from, tried.registers)
    if (!own) return 'outside'
    const raw = decodeValue(own, tried.format)
    const number = raw.ok ? numberOf(raw.value) : undefined
    if (number === undefined) return 'no-number'
    raws.push(number)
  }
  return raws
}

/** Whether the other byte is empty in every sample: then the byte is the whole register, which is tried by itself. */
function isOnlyWholeRegister(
  question: Question,
  shift: number,
  { format, isOtherType }: TriedFormat,
  raws: readonly number[],
): boolean {
  if (!isOtherType || !isByteType(format.type)) return false
  const type = byteTypes[format.type].isSigned ? 'int16' : 'uint16'
  const whole = rawAt(question, shift, { format: { ...format, type }, registers: 1 })
  return typeof whole !== 'string' && raws.every((raw, k) => raw === whole[k])
}

const valueOf = (raw: number, { scale, offset }: Line): number => {
  const value = raw * scale + offset
  return Number.isInteger(raw) && Number.isFinite(value) ? Number(value.toPrecision(15)) : value
}

/** What the plan reads in each sample, whether or not anybody knows what it should be. */
function plannedValues({ plan, first, samples }: Question): readonly (number | undefined)[] {
  const registers = registersOf(plan.format)
  return samples.map(({ words }) => {
    const own = wordsAt(words, plan.address - first, registers)
    const raw = own && decodeValue(own, plan.format)
    const number = raw?.ok ? numberOf(raw.value) : undefined
    return number === undefined ? undefined : valueOf(number, plan)
  })
}

/** Why a question cannot be answered at all. */
function missingOf(question: Question): string {
  if (question.samples.length === 0) return 'No registers are given yet.'
  const without = question.samples.filter((sample) => expectedAt(question, sample) === undefined)
  if (without.length > 0) return 'It is not said what the value should be.'
  const kinds = question.samples.map((sample) => expectedAt(question, sample)?.kind)
  if (kinds.every((kind) => kind === 'rising') && spanOfTime(question.samples) === 0)
    return 'How it changes shows only in two samples or more, some time apart.'
  return ''
}

function spanOfTime(samples: readonly Sample[]): number {
  const times = samples.map(({ at }) => at)
  return Math.max(...times) - Math.min(...times)
}

/**
 * Every way to read the registers around the planned place that gives what was expected at every sample: up to two
 * registers earlier or later, every type of number, every order, every mistaken scale of `factors`. Complete within
 * these: nothing is left out to save time.
 */
export function search(question: Question): Search {
  const missing = missingOf(question)
  const planned = plannedValues(question)
  const none = { planned, explanations: [], compared: 0, outside: 0, missing }
  if (missing !== '') return { verdict: 'not-conclusive', ...none }
  const lines = linesFor(question)
  const bands = question.samples.map((sample) => {
    const expect = expectedAt(question, sample)
    return expect && bandOf(expect)
  })
  const isShown = question.samples.every((sample) => expectedAt(question, sample)?.kind === 'shown')
  const found: Explanation[] = []
  let [compared, outside] = [0, 0]
  const shifts = Array.from({ length: 2 * FARTHEST + 1 }, (_, k) => k - FARTHEST)
  for (const tried of formatsFor(question.plan.format)) {
    for (const shift of shifts) {
      const raws = rawAt(question, shift, tried)
      if (raws === 'outside') outside += 1
      if (typeof raws === 'string' || isOnlyWholeRegister(question, shift, tried, raws)) continue
      // A single bit has no scale.
      for (const { factor, ...line } of tried.format.type === 'bool' ? lines.slice(0, 1) : lines) {
        compared += 1
        if (!raws.every((raw, k) => isInside(raw * line.scale + line.offset, bands[k], isShown))) continue
        const values = raws.map((raw) => valueOf(raw, line))
        const aspects = aspectsOf(shift, tried, factor)
        const seen = seenOf(question, values)
        if (!risesAsTold(seen)) continue
        found.push({
          shift,
          format: { ...tried.format, order: tried.isOtherOrder ? tried.format.order : orderKept(question, tried) },
          registers: tried.registers,
          line,
          factor: { id: factor.id, say: factor.say, isUncommon: factor.isUncommon },
          aspects,
          uncommon: tried.uncommon + (Math.abs(shift) > 1 ? 1 : 0) + (factor.isUncommon ? 1 : 0),
          values,
          isStrained: isStrained(question, shift, tried),
          chance: chanceAtAll(seen, tried, line),
        })
      }
    }
  }
  const explanations = found.sort((a, b) => costOf(a) - costOf(b))
  const isRight = explanations.some((each) => each.aspects.length === 0)
  const verdict =
    compared === 0 ? 'not-conclusive' : isRight ? 'right' : explanations.length > 0 ? 'explained' : 'unexplained'
  return {
    verdict,
    planned,
    explanations,
    compared,
    outside,
    missing: compared === 0 ? 'The registers of the point are not among those given.' : '',
  }
}

/** Whether the words of a reading changed from sample to sample, and the lowest of them never. */
function isStrained(question: Question, shift: number, { format, registers }: TriedFormat): boolean {
  if (registers === 1) return false
  const from = question.plan.address + shift - question.first
  const taken = question.samples.map(({ words }) => reorder(wordsAt(words, from, registers) ?? [], format.order))
  const [first] = taken
  const moved = taken.some((words) => words.some((word, k) => word !== first?.[k]))
  return moved && taken.every((words) => words.at(-1) === first?.at(-1))
}

/** The planned order where the tried one does the same, so that nothing is said to change that does not. */
const orderKept = ({ plan }: Question, { format, registers }: TriedFormat): ByteOrder =>
  sameOrder(plan.format.order, registers) === format.order ? plan.format.order : format.order

function aspectsOf(shift: number, tried: TriedFormat, factor: Factor): readonly Aspect[] {
  const aspects: Aspect[] = []
  if (shift !== 0) aspects.push('shift')
  if (tried.isOtherType) aspects.push('type')
  if (tried.isOtherOrder) aspects.push('order')
  if (factor.id !== 'planned') aspects.push('scale')
  return aspects
}

const seenOf = (question: Question, values: readonly number[]): readonly Seen[] =>
  question.samples.flatMap((sample, k) => {
    const [value, expect] = [values[k], expectedAt(question, sample)]
    return value === undefined || expect === undefined ? [] : [{ at: sample.at, value, expect }]
  })

/** Values that moved between samples tell more than one; one that stands still tells once. */
function chanceAtAll(seen: readonly Seen[], tried: TriedFormat, line: Line): number {
  let chance = 1
  const values = new Set<number>()
  seen.forEach(({ value, expect }, k) => {
    if (values.has(value)) return
    values.add(value)
    const band = bandOf(expect) ?? bandOfStep(seen, k)
    if (band) chance *= chanceOf(tried.format.type, line, band)
  })
  return chance
}

/** A step that has to be of a size is a band around the value before it. */
function bandOfStep(seen: readonly Seen[], k: number): readonly [number, number] | undefined {
  const [before, now] = [seen[k - 1], seen[k]]
  if (!before || now?.expect.kind !== 'rising') return undefined
  const share = (now.at - before.at) / 1000 / now.expect.seconds
  const [step, allowed] = [now.expect.by * share, now.expect.allowed * share]
  return [before.value + step - allowed, before.value + step + allowed]
}
