import type { Handshake, MemoryPlan, Point } from '../job'
import type { Memory, MemoryBlock, PlacingRules } from '../memory'
import { tables } from '../modbus'
import type { PackedRequest } from '../packing'
import type { PlaceOrMissing } from './place'

/** Words of the block in which a gateway tells its errors. Common practice, no source. */
export const ERROR_WORDS = 8

/** What goes to the device: so many words, from cells of the memory. */
export interface MemoryWrite {
  readonly point: Point
  readonly words: number
}

const wordsOf = (table: PackedRequest['table'], count: number) =>
  tables[table].bits === 1 ? Math.ceil(count / 16) : count

/** Points that the controller writes, each with the words that it takes; bits take one. */
export const writesOf = (handshake: Handshake, places: readonly PlaceOrMissing[]): readonly MemoryWrite[] =>
  handshake.points.flatMap((point, k) => {
    const place = places[k]
    return point.access === 'read' || !place || 'missing' in place
      ? []
      : [{ point, words: wordsOf(place.table, place.size) }]
  })

/**
 * The memory between the ends with what its gateway reads and sends; or what has to be said first. Where nothing is sent
 * it does not matter what the controller writes.
 * @param sentFrom word from which a point is sent; `undefined` where it is placed by itself
 */
export function memoryOf(
  plan: MemoryPlan,
  requests: readonly PackedRequest[],
  writes: readonly MemoryWrite[],
  sentFrom: (point: Point) => number | undefined = (point) => point.sentFrom ?? undefined,
): { readonly memory: Memory; readonly rules: PlacingRules } | { readonly missing: readonly (keyof MemoryPlan)[] } {
  const needed = [
    'readFirst',
    'readCount',
    ...(writes.length > 0 ? (['writeFirst', 'writeCount'] as const) : []),
  ] as const
  const missing = needed.filter((key) => plan[key] === null)
  const { readFirst, readCount, errors, boundary, room } = plan
  if (readFirst === null || readCount === null || missing.length > 0) return { missing }
  const blocks: readonly MemoryBlock[] = [
    ...(errors === null
      ? []
      : [{ id: 'errors', name: 'The error block', use: 'status' as const, first: errors, count: ERROR_WORDS }]),
    ...requests.map(({ table, count }, k): MemoryBlock => ({
      id: `${k}`,
      name: `Command ${k + 1}`,
      use: 'fill',
      first: undefined,
      count: wordsOf(table, count) + plan.states,
    })),
    ...writes.map(({ point, words }): MemoryBlock => ({
      id: `sent ${point.id}`,
      name: `${point.quantity}, sent`,
      use: 'send',
      first: sentFrom(point),
      count: words,
    })),
  ]
  const write = { first: plan.writeFirst ?? 0, count: plan.writeCount ?? 0 }
  return { memory: { read: { first: readFirst, count: readCount }, write, blocks }, rules: { boundary, room } }
}
