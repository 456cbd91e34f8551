import { decodeValue, encodeValue, registersOf, type RawValue } from '../values'
import { bandOf } from './fits'
import { expectedAt, type Question } from './question'
import { wordsAt, type Explanation } from './search'

/** A reading that would tell equal explanations apart. */
export type TellingReading =
  /** Bring the quantity to about this value, in its unit, and read the registers again. */
  | {
      readonly kind: 'value'
      readonly value: number
      /** What each explanation would then show, if the first, the second ... is the right one; a row for each. */
      readonly shows: readonly (readonly (number | undefined)[])[]
    }
  /** Let the quantity move a little: only the registers of the right one change, and no other has them. */
  | { readonly kind: 'registers'; readonly own: readonly (readonly number[])[] }

/** What can be tried, as near to where the value is as possible: a person has to bring the plant there. */
function valuesToTry(now: number, span: Question['span']): readonly number[] {
  const steps = [1.1, 0.9, 1.5, 0.5, 2, 0, -1, 10, 0.1, 100].map((factor) => now * factor)
  const ends = span ? [span.low, (span.low + span.high) / 2, span.high] : [1, -1, 100]
  const inside = (value: number) => !span || (value >= span.low && value <= span.high)
  return [...steps.filter(inside), ...ends, ...(span ? [] : [-now])]
}

/** Registers that an explanation takes and no other of them; all but one need some. */
function tellingRegisters(question: Question, equals: readonly Explanation[]): TellingReading | undefined {
  const taken = equals.map(({ shift, registers }) =>
    Array.from({ length: registers }, (_, k) => question.plan.address + shift + k),
  )
  const own = taken.map((registers, k) =>
    registers.filter((register) => taken.every((others, at) => at === k || !others.includes(register))),
  )
  return own.filter((registers) => registers.length === 0).length <= 1 ? { kind: 'registers', own } : undefined
}

/**
 * The nearest value of the quantity at which equal explanations no longer agree. Each is taken to be the right one in
 * turn: its registers are written as the device would, and all others read them. Where no value does, the registers that
 * only one of them takes tell: they change with the quantity, or they do not.
 *
 * @returns `undefined` where neither parts them all
 */
export function tellApart(question: Question, equals: readonly Explanation[]): TellingReading | undefined {
  const sample = question.samples.at(-1)
  const expect = sample && expectedAt(question, sample)
  if (!sample || !expect || equals.length < 2) return undefined
  const now = equals[0]?.values.at(-1) ?? 0
  const band = bandOf(expect)
  const apart = Math.max(band ? (band[1] - band[0]) / 2 : 0, Math.abs(now) * 1e-6)
  for (const value of valuesToTry(now, question.span)) {
    const shows = equals.map((right) => {
      const words = wordsIf(question, sample.words, right, value)
      return words && equals.map((other) => readBy(question, words, other))
    })
    // One that cannot hold the value at all is out as soon as the quantity gets there.
    const holds = shows.map((row, right) => {
      const own = row?.[right]
      return own !== undefined && Math.abs(own - value) <= Math.max(apart, Math.abs(value) * 0.01)
    })
    const parts = shows.every(
      (row, right) =>
        !holds[right] ||
        row?.every((shown, k) => k === right || shown === undefined || Math.abs(shown - value) > 2 * apart),
    )
    if (parts && holds.filter((each) => !each).length <= 1)
      return { kind: 'value', value, shows: shows.map((row) => row ?? []) }
  }
  return tellingRegisters(question, equals)
}

/** The registers as the device would fill them if an explanation is right and the quantity is at a value. */
function wordsIf(
  question: Question,
  words: readonly (number | undefined)[],
  right: Explanation,
  value: number,
): readonly (number | undefined)[] | undefined {
  const { format, line } = right
  const exact = (value - line.offset) / line.scale
  const isFloat = format.type === 'float32' || format.type === 'float64'
  const raw: RawValue =
    format.type === 'bool'
      ? { kind: 'bool', value: value > 0.5 }
      : { kind: 'number', value: isFloat ? exact : Math.round(exact) }
  const from = question.plan.address + right.shift - question.first
  const written = encodeValue(raw, format, wordsAt(words, from, registersOf(format)))
  return written.ok
    ? [...words.slice(0, from), ...written.value, ...words.slice(from + written.value.length)]
    : undefined
}

function readBy(
  question: Question,
  words: readonly (number | undefined)[],
  { format, line, shift, registers }: Explanation,
) {
  const from = question.plan.address + shift - question.first
  const own = wordsAt(words, from, registers)
  const raw = own && decodeValue(own, format)
  if (!raw?.ok) return undefined
  const { kind, value } = raw.value
  return kind === 'number' || kind === 'whole' || kind === 'bool' ? Number(value) * line.scale + line.offset : undefined
}
