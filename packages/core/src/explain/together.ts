import type { ByteOrder } from '../values'
import { sameOrder } from './formats'
import type { Question } from './question'
import { costOf, costOfStrain, search, type Explanation, type Search } from './search'

/** A convention that the points of a device usually share: where they begin to count, and the order of their words. */
export interface Convention {
  readonly shift: number
  /** `undefined`: as each point's plan says. */
  readonly order: ByteOrder | undefined
}

/** What one point of several comes to. */
export interface PointAnswer {
  readonly search: Search
  /** Explanations as they rank beside the other points; equal ones stand together at the front. */
  readonly explanations: readonly RankedExplanation[]
  /** Those that nothing puts before one another. */
  readonly equals: readonly RankedExplanation[]
}

export interface RankedExplanation extends Explanation {
  /** What it costs beside what all points of the device share; smaller is simpler. */
  readonly rank: number
  /** Chance that something as simple fits registers which mean something else. */
  readonly accidental: number
  /** Other readings that fit and need at most one change more. */
  readonly rivals: number
  /** It takes registers that another point was just seen to be read rightly from. */
  readonly isTaken: boolean
}

const conventions: readonly Convention[] = [0, -1, 1, -2, 2].flatMap((shift) =>
  [undefined, 'ABCD', 'CDAB', 'BADC', 'DCBA', 'CDAB-halves', 'DCBA-halves'].map((order) => ({
    shift,
    order: order as ByteOrder | undefined,
  })),
)

const ASPECT = 100

/** Of conventions that cost the same, that is taken which leaves more points as they are planned. */
const CHANGED = 0.5

/** What a convention itself costs: each of its two parts once, for all points together. */
const costOfConvention = ({ shift, order }: Convention): number =>
  (shift === 0 ? 0 : ASPECT + (Math.abs(shift) > 1 ? 1 : 0)) +
  (order === undefined ? 0 : ASPECT + (order === 'ABCD' || order === 'CDAB' ? 0 : 1))

/** What an explanation costs beside a convention: only what the convention does not say already. */
function costBeside(question: Question, each: Explanation, { shift, order }: Convention): number {
  const meant = sameOrder(order ?? question.plan.format.order, each.registers)
  const isOwnShift = each.shift !== shift
  const isOwnOrder = sameOrder(each.format.order, each.registers) !== meant
  const others = each.aspects.filter((aspect) => aspect === 'type' || aspect === 'scale').length
  const uncommonOwn = each.uncommon - (each.shift === shift && Math.abs(shift) > 1 ? 1 : 0)
  return costOfStrain(each) + ASPECT * (others + (isOwnShift ? 1 : 0) + (isOwnOrder ? 1 : 0)) + Math.max(0, uncommonOwn)
}

/**
 * Points of one device, solved together. They usually share where counting begins and the order of words, so what all
 * have in common is paid for once; that decides between explanations which are equal for one point alone. A point that
 * nothing explains stays so and has no say.
 */
export function explainPoints(questions: readonly Question[]): readonly PointAnswer[] {
  const searches = questions.map(search)
  const shared = bestConventions(questions, searches)
  const held = questions.map((question, k) => registersHeld(question, searches[k] as Search))
  return questions.map((question, k) => {
    const found = searches[k] as Search
    const taken = new Set(held.flatMap((registers, at) => (at === k ? [] : registers)))
    const ranked = found.explanations
      .map((each) => {
        const isTaken = registersOf(question, each).some((register) => taken.has(register))
        const own =
          shared.length === 0
            ? costOf(each)
            : Math.min(...shared.map((convention) => costBeside(question, each, convention)))
        return { ...each, isTaken, rank: own + (isTaken ? TAKEN : 0) }
      })
      .sort((a, b) => a.rank - b.rank || costOf(a) - costOf(b))
    return answerOf(found, ranked, shared.length === 0)
  })
}

/** What it costs to take registers that are another point's: a little more than one aspect. */
const TAKEN = ASPECT + 5

const registersOf = ({ plan }: Question, { shift, registers }: Explanation): readonly number[] =>
  Array.from({ length: registers }, (_, k) => plan.address + shift + k)

/** Registers of a point that its plan was seen to read rightly, and not by accident. */
function registersHeld(question: Question, found: Search): readonly number[] {
  const plan = found.explanations.find(({ aspects }) => aspects.length === 0)
  return plan && !plan.isStrained ? registersOf(question, plan) : []
}

/** Conventions at which all points together are simplest; none where there is only one point to explain. */
function bestConventions(questions: readonly Question[], searches: readonly Search[]): readonly Convention[] {
  const telling = searches.flatMap((each, k) => (each.explanations.length > 0 ? [k] : []))
  if (telling.length < 2) return []
  const costs = conventions.map((convention) => {
    const own = telling.map((k) =>
      Math.min(
        ...(searches[k] as Search).explanations.map(
          (each) => costBeside(questions[k] as Question, each, convention) + (each.aspects.length > 0 ? CHANGED : 0),
        ),
      ),
    )
    return own.reduce((sum, each) => sum + each, costOfConvention(convention))
  })
  const least = Math.min(...costs)
  return conventions.filter((_, k) => costs[k] === least)
}

type BeforeChance = Omit<RankedExplanation, 'accidental' | 'rivals'>

function answerOf(found: Search, ranked: readonly BeforeChance[], alone: boolean): PointAnswer {
  const explanations: RankedExplanation[] = ranked.map((each) => ({
    ...each,
    accidental: Math.min(1, each.chance * waysAsSimple(each)),
    rivals: ranked.filter(
      (other) => other !== each && !other.isStrained && other.aspects.length <= each.aspects.length + 1,
    ).length,
  }))
  const [first] = explanations
  const equals = explanations.filter(
    (each) => first && each.rank === first.rank && (alone || costOf(each) === costOf(first)),
  )
  return { search: found, explanations, equals }
}

/** Roughly how many ways are as simple: each aspect that may differ multiplies them. Shift 4, type 13, order 3, scale 30. */
const ways = { shift: 4, type: 13, order: 3, scale: 30 } as const
const waysAsSimple = ({ aspects }: Pick<Explanation, 'aspects'>): number => {
  const all = Object.values(ways)
  const ofSize = (count: number): number =>
    count === 0
      ? 1
      : subsets(all, count).reduce((sum, set) => sum + set.reduce((product, each) => product * each, 1), 0)
  return Array.from({ length: aspects.length + 1 }, (_, count) => ofSize(count)).reduce((a, b) => a + b, 0)
}

function subsets<T>(items: readonly T[], count: number): readonly (readonly T[])[] {
  if (count === 0) return [[]]
  return items.flatMap((item, k) => subsets(items.slice(k + 1), count - 1).map((rest) => [item, ...rest]))
}
