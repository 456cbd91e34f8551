import { wordsAt } from '../../explain'
import { byteOrders, reorder, type ByteOrder } from '../../values'
import type { Fault, HopExplanation } from './fault'
import type { OtherWords, WordHop } from './hops'

/** What stood in a place at each moment; `undefined` where it was not seen. */
export type Track = readonly (readonly number[] | undefined)[]

/** Registers to either side that are tried for a copy that begins in the wrong place. */
const FARTHEST = 4

const same = (a: readonly number[] | undefined, b: readonly number[] | undefined): boolean =>
  a !== undefined && b !== undefined && a.length === b.length && a.every((word, k) => word === b[k])

/** Moments at which both were seen. */
const both = (a: Track, b: Track): readonly number[] =>
  a.flatMap((words, k) => (words !== undefined && b[k] !== undefined ? [k] : []))

/** Whether one is the other at every moment, or one moment later: copies run behind. */
export function follows(seen: Track, should: Track): boolean {
  const now = both(seen, should)
  if (now.length === 0) return false
  if (now.every((k) => same(seen[k], should[k]))) return true
  const later = now.filter((k) => k > 0)
  return later.length > 1 && later.every((k) => same(seen[k], should[k]) || same(seen[k], should[k - 1]))
}

/** Words of a hop at a place; `undefined` where its window ends before. */
export const trackAt = (hop: WordHop, at: number, count: number): Track =>
  hop.samples.map((words) => words && wordsAt(words, at - hop.first, count))

const moves = (track: Track): boolean => {
  const seen = track.filter((words) => words !== undefined)
  return seen.some((words) => !same(words, seen[0]))
}
const isZero = (words: readonly number[] | undefined): boolean => words?.every((word) => word === 0) ?? false

/** A place to take words from, and what that says. */
interface Origin {
  readonly fault: Fault | undefined
  readonly track: Track
  readonly uncommon: number
}

const turned = (track: Track, order: ByteOrder): Track => track.map((words) => words && reorder(words, order))

/**
 * What makes of the words before the words that were seen: taken from another place or another unit, turned round, cut
 * short, written over, standing still, zero. One fault or two at once, fewest first.
 */
export function wordFaults(before: WordHop, hop: WordHop, count: number, others: readonly OtherWords[]) {
  const seen = trackAt(hop, hop.at, count)
  const should = trackAt(before, before.at, count)
  const found: HopExplanation[] = []
  const add = (faults: readonly (Fault | undefined)[], uncommon = 0) =>
    found.push({ faults: faults.filter((each) => each !== undefined), uncommon })
  for (const origin of originsOf(before, count, others)) {
    for (const [order, fault] of ordersOf(count)) {
      if (!origin.fault && !fault) continue
      const track = turned(origin.track, order)
      if (!follows(seen, track)) continue
      // Words that are alike whichever way round say nothing of their order.
      if (fault && follows(seen, origin.track)) continue
      add([origin.fault, fault], origin.uncommon + (byteOrders[order].bytesSwapped ? 1 : 0))
    }
    for (const cut of partsOf(seen, origin.track, others, hop.name)) add([origin.fault, cut], origin.uncommon)
  }
  const still = standing(seen, should, hop)
  if (still) add([still])
  return { seen, should, compared: both(seen, should).length, found }
}

function originsOf(before: WordHop, count: number, others: readonly OtherWords[]): readonly Origin[] {
  const shifts = Array.from({ length: 2 * FARTHEST + 1 }, (_, k) => k - FARTHEST)
  return [
    ...shifts.map((shift): Origin => {
      const say = `taken ${Math.abs(shift)} register${Math.abs(shift) === 1 ? '' : 's'} ${shift > 0 ? 'later' : 'earlier'} in ${before.name}`
      return {
        fault: shift === 0 ? undefined : { kind: 'shift', say },
        track: trackAt(before, before.at + shift, count),
        uncommon: Math.max(0, Math.abs(shift) - 1),
      }
    }),
    ...others.map(({ name, samples }): Origin => ({
      fault: { kind: 'other', say: `it is the value of ${name}` },
      track: samples.map((words) => words?.slice(0, count)),
      uncommon: 0,
    })),
  ]
}

const orderSay: Readonly<Partial<Record<ByteOrder, string>>> = {
  CDAB: 'the words are swapped',
  BADC: 'the bytes of each word are swapped',
  DCBA: 'words and bytes are swapped',
}
function ordersOf(count: number): readonly (readonly [ByteOrder, Fault | undefined])[] {
  const orders: readonly ByteOrder[] = count > 1 ? ['CDAB', 'BADC', 'DCBA'] : ['BADC']
  return [
    ['ABCD', undefined],
    ...orders.map((order) => [order, { kind: 'order', say: orderSay[order] ?? order }] as const),
  ]
}

/** The front part is right, and the rest is not: cut short where it is zero or stands still, else written over. */
function partsOf(seen: Track, from: Track, others: readonly OtherWords[], at: string): readonly Fault[] {
  const now = both(seen, from)
  const count = seen.find((words) => words !== undefined)?.length ?? 0
  if (now.length === 0 || count < 2) return []
  const rightAt = Array.from({ length: count }, (_, word) => now.every((k) => seen[k]?.[word] === from[k]?.[word]))
  const firstWrong = rightAt.indexOf(false)
  if (firstWrong < 0 || !rightAt.includes(true)) return []
  const wrong = rightAt.flatMap((isRight, word) => (isRight ? [] : [word]))
  const over = others.find(({ samples }) =>
    now.every((k) => wrong.every((word) => samples[k]?.includes(seen[k]?.[word] ?? -1))),
  )
  if (over)
    return [
      {
        kind: 'overwritten',
        say: `${over.name} writes over ${wrong.length === 1 ? 'one word' : `${wrong.length} words`} of it in ${at}`,
      },
    ]
  const tail = wrong.every((word) => word >= firstWrong) && wrong.length === count - firstWrong
  const stands = wrong.every((word) => now.every((k) => seen[k]?.[word] === seen[now[0] ?? 0]?.[word]))
  return tail && firstWrong > 0 && stands
    ? [{ kind: 'truncated', say: `only the first ${firstWrong} of ${count} words are carried to ${at}` }]
    : []
}

/** What stands still though its source moves, or is zero though its source is not. */
function standing(seen: Track, should: Track, { name }: WordHop): Fault | undefined {
  const now = both(seen, should)
  const zeros = now.filter((k) => isZero(seen[k]) && !isZero(should[k]))
  if (now.length > 0 && zeros.length === now.length)
    return { kind: 'zero', say: `${name} is zero at every look: nothing has written it since the first one` }
  const since = now.findIndex((k) => zeros.includes(k))
  if (
    since > 0 &&
    now.slice(since).every((k) => zeros.includes(k)) &&
    now.slice(0, since).every((k) => same(seen[k], should[k]))
  )
    return {
      kind: 'cleared',
      say: `${name} followed and is zero since look ${(now[since] ?? 0) + 1}: its source was lost there`,
    }
  const visible = now.map((k) => seen[k])
  if (now.length > 1 && !moves(visible) && moves(now.map((k) => should[k])))
    return { kind: 'stale', say: `${name} stands still while its source moves` }
  return undefined
}
