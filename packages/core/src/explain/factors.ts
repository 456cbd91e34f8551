import type { Question } from './question'

/** From a raw number to the value: `raw × scale + offset`. */
export interface Line {
  readonly scale: number
  readonly offset: number
}

/** One way in which a scale is mistaken. */
export interface Factor {
  readonly id: string
  /** As an instruction: `multiply by 10`. */
  readonly say: string
  /** Whether it is met seldom: such a one ranks after those that are met often. */
  readonly isUncommon: boolean
  /** The right line where the planned one is mistaken in this way; `undefined` where it says nothing here. */
  readonly line: (question: Question) => Line | undefined
}

const times = (id: string, factor: number, say: string, isUncommon = false): Factor => ({
  id,
  say,
  isUncommon,
  line: ({ plan }) => ({ scale: plan.scale * factor, offset: plan.offset }),
})

/** Beyond a thousand either way a power of ten is seldom meant. */
const COMMON_POWER = 3
const powers = [1, 2, 3, 4, 5, 6].flatMap((power) => [
  times(`ten-${power}`, 10 ** power, `multiply by ${10 ** power}`, power > COMMON_POWER),
  times(`tenth-${power}`, 1 / 10 ** power, `divide by ${10 ** power}`, power > COMMON_POWER),
])

/** The whole span in so many raw counts. */
const counts = (id: string, from: number, to: number, say: string): Factor => ({
  id,
  say,
  isUncommon: true,
  line: ({ span }) => {
    if (!span || span.high === span.low) return undefined
    const scale = (span.high - span.low) / (to - from)
    return { scale, offset: span.low - from * scale }
  },
})

const degrees = /^(°|K$|deg)/

/**
 * How scales are mistaken. Powers of ten, hours against minutes or seconds, metres a second against kilometres an hour,
 * a percentage of the span, raw counts of an analog input, another temperature scale.
 *
 * @source common practice, no source; 4 to 20 mA in 0.01 mA and in µA, spans of 12, 15 and 16 bits
 */
export const factors: readonly Factor[] = [
  ...powers,
  times('x60', 60, 'multiply by 60'),
  times('by60', 1 / 60, 'divide by 60'),
  times('x3.6', 3.6, 'multiply by 3.6'),
  times('by3.6', 1 / 3.6, 'divide by 3.6'),
  times('x3600', 3600, 'multiply by 3600', true),
  times('by3600', 1 / 3600, 'divide by 3600', true),
  times('minus', -1, 'turn the sign', true),
  counts('percent', 0, 100, 'take it as percent of the span'),
  counts('permille', 0, 1000, 'take it as tenths of a percent of the span'),
  counts('percent-hundredths', 0, 10_000, 'take it as hundredths of a percent of the span'),
  counts('bits-12', 0, 4095, 'take it as raw counts 0 to 4095 over the span'),
  counts('bits-15', 0, 32_767, 'take it as raw counts 0 to 32767 over the span'),
  counts('bits-16', 0, 65_535, 'take it as raw counts 0 to 65535 over the span'),
  counts('milliamperes', 400, 2000, 'take it as 4 to 20 mA in 0.01 mA over the span'),
  counts('microamperes', 4000, 20_000, 'take it as 4 to 20 mA in µA over the span'),
  {
    id: 'kelvin',
    say: 'take it as kelvin',
    isUncommon: true,
    line: ({ plan, unit }) => (degrees.test(unit) ? { ...plan, offset: plan.offset - 273.15 } : undefined),
  },
  {
    id: 'fahrenheit',
    say: 'take it as degrees Fahrenheit',
    isUncommon: true,
    line: ({ plan, unit }) =>
      degrees.test(unit) ? { scale: (plan.scale * 5) / 9, offset: ((plan.offset - 32) * 5) / 9 } : undefined,
  },
]

/** The planned line as it stands. */
export const asPlanned: Factor = {
  id: 'planned',
  say: '',
  isUncommon: false,
  line: ({ plan }) => ({ scale: plan.scale, offset: plan.offset }),
}

/** Every line that can be drawn for a question, each once: of two that say the same the commoner stays. */
export function linesFor(question: Question): readonly (Line & { readonly factor: Factor })[] {
  const seen: (Line & { readonly factor: Factor })[] = []
  const near = (a: number, b: number) => Math.abs(a - b) <= 1e-12 * Math.max(Math.abs(a), Math.abs(b))
  for (const factor of [asPlanned, ...factors]) {
    const line = factor.line(question)
    if (!line || line.scale === 0) continue
    if (seen.some((each) => near(each.scale, line.scale) && near(each.offset, line.offset))) continue
    seen.push({ scale: line.scale, offset: line.offset, factor })
  }
  return seen
}
