import { linesFor, search, sayExplanation, stepsOf, type Question } from '../../explain'
import { decodeValue, scaled } from '../../values'
import type { Fault, FaultKind, HopExplanation } from './fault'
import type { PathSeen, ValueHop, WordHop } from './hops'
import { trackAt } from './wordFaults'

type Values = readonly (number | undefined)[]

const aspectKind: Readonly<Record<string, FaultKind>> = { shift: 'shift', type: 'type', order: 'order', scale: 'scale' }

/** What a float of 32 bits loses of a number. */
const ROUNDING = 1e-6

const close = (a: number | undefined, b: number | undefined, allowed: number): boolean =>
  a !== undefined && b !== undefined && Math.abs(a - b) <= allowed + ROUNDING * Math.abs(b)

/** What words mean, by the plan, at every moment. */
export function meantBy(hop: WordHop, path: PathSeen): Values {
  return trackAt(hop, hop.at, path.registers).map((words) => {
    const raw = words && decodeValue(words, path.format)
    return raw?.ok ? scaled(raw.value, path) : undefined
  })
}

const bothSeen = (a: Values, b: Values) =>
  a.flatMap((value, k) => (value !== undefined && b[k] !== undefined ? [k] : []))

/** Whether a number is the other at every moment, or one moment later. */
export function showsThat(seen: Values, should: Values, allowed: number): boolean {
  const now = bothSeen(seen, should)
  if (now.length === 0) return false
  if (now.every((k) => close(seen[k], should[k], allowed))) return true
  const later = now.filter((k) => k > 0)
  return (
    later.length > 1 && later.every((k) => close(seen[k], should[k], allowed) || close(seen[k], should[k - 1], allowed))
  )
}

const still = (values: Values) => new Set(values.filter((value) => value !== undefined)).size === 1

/** What stands still: held by hand, an old value of its source, or a value that its source never had while looked at. */
function standing(seen: Values, should: Values, hop: ValueHop): Fault | undefined {
  const now = bothSeen(seen, should)
  const own = now.map((k) => seen[k])
  if (hop.isForced === true && still(own)) return { kind: 'forced', say: `${hop.name} is held by hand` }
  if (now.length < 2 || !still(own) || still(now.map((k) => should[k]))) return undefined
  const [value] = own
  if (value === 0) return { kind: 'zero', say: `${hop.name} is zero at every look` }
  const wasOnce = now.some((k) => close(value, should[k], hop.allowed))
  return wasOnce
    ? { kind: 'stale', say: `${hop.name} stands still while its source moves` }
    : {
        kind: 'forced',
        say: `${hop.name} stands at a value its source did not have: it is held by hand, or stale from before`,
      }
}

/** What makes of words the number that was seen, by every reading of `explain`. */
export function faultsFromWords(before: WordHop, hop: ValueHop, path: PathSeen): readonly HopExplanation[] {
  const now = hop.samples.flatMap((value, k) => (value !== undefined && before.samples[k] !== undefined ? [k] : []))
  const question: Question = {
    first: before.first,
    plan: { address: before.at, format: path.format, scale: path.scale, offset: path.offset },
    span: path.span,
    unit: path.unit,
    samples: now.map((k) => ({
      at: k,
      words: before.samples[k] ?? [],
      expect: {
        kind: 'shown',
        value: hop.samples[k] ?? NaN,
        allowed: hop.allowed + ROUNDING * Math.abs(hop.samples[k] ?? 0),
      },
    })),
  }
  const { explanations } = search(question)
  const stands = standing(hop.samples, meantBy(before, path), hop)
  return [
    ...(stands ? [{ faults: [stands], uncommon: 0 }] : []),
    ...explanations
      .filter(({ aspects, isStrained }) => aspects.length > 0 && aspects.length <= 2 && !isStrained)
      .map((each) => {
        const steps = stepsOf(question, each)
        const faults = each.aspects.map((aspect, k) => ({
          kind: aspectKind[aspect] ?? 'scale',
          say: `${hop.name} does otherwise than planned: ${steps[k] ?? sayExplanation(question, each)}`,
        }))
        const { shift, format, line } = each
        return { faults, uncommon: each.uncommon, reading: { shift, format, line } }
      }),
  ]
}

/** What makes of one number another: another scale, or standing still. */
export function faultsFromValues(before: Values, hop: ValueHop, path: PathSeen): readonly HopExplanation[] {
  const stands = standing(hop.samples, before, hop)
  const question: Question = {
    first: 0,
    samples: [],
    plan: { address: 0, format: path.format, scale: 1, offset: 0 },
    span: path.span,
    unit: path.unit,
  }
  const lines = linesFor(question)
    .filter(({ factor }) => factor.id !== 'planned')
    .filter(({ scale, offset }) =>
      showsThat(
        hop.samples,
        before.map((value) => value && value * scale + offset),
        hop.allowed,
      ),
    )
  return [
    ...(stands ? [{ faults: [stands], uncommon: 0 }] : []),
    ...lines.map(({ factor }) => ({
      faults: [{ kind: 'scale' as const, say: `${hop.name} shows another scale: ${factor.say}` }],
      uncommon: factor.isUncommon ? 1 : 0,
    })),
  ]
}
