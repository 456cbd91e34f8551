import type { Handshake, Job, MemoryPlan, Point } from '../job'
import { placeBlocks, type Memory, type MemoryBlock, type PlacingRules } from '../memory'
import { tables, type Table } from '../modbus'
import type { PackedRequest } from '../packing'
import { placesOf, type PlaceOrMissing } from './place'

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

/** Function that writes so many registers or bits of a table. @source Modbus Application Protocol V1.1b3, 6.5, 6.6, 6.11, 6.12 */
const writtenBy = (table: Table, count: number): number =>
  tables[table].bits === 1 ? (count === 1 ? 5 : 15) : count === 1 ? 6 : 16

/** The table of the gateway or module between the ends: what it asks, what it sends, and where each lies in its memory. */
export function gatewayRows(
  job: Job,
  handshake: Handshake,
  requests: readonly PackedRequest[],
  unit: string,
): { readonly rows: readonly (readonly (string | number)[])[] } | { readonly missing: string } {
  const places = placesOf(job, handshake)
  const writes = writesOf(handshake, places)
  const laid = memoryOf(handshake.memory, requests, writes)
  if ('missing' in laid) return { missing: 'it is not said which words the controller reads and writes' }
  const placing = placeBlocks(laid.memory, laid.rules)
  if (placing.verdict !== 'placed') return { missing: `there is no place for ${placing.missing.join(', ')}` }
  const at = new Map(placing.blocks.map((block) => [block.id, block]))
  const cells = (id: string) => [at.get(id)?.first ?? '', at.get(id)?.count ?? '']
  const errors = at.get('errors')
  return {
    rows: [
      [
        'Command',
        'Does',
        'Unit',
        'Function',
        'Address from 0',
        'Count',
        'Every ms',
        'Memory from word',
        'Memory words',
      ],
      ...requests.map(({ table, first, count, pollMs }, k) => [
        k + 1,
        'reads',
        unit,
        tables[table].readBy,
        first,
        count,
        pollMs,
        ...cells(`${k}`),
      ]),
      ...handshake.points.flatMap((point, k) => {
        const place = places[k]
        return point.access === 'read' || !place || 'missing' in place
          ? []
          : [
              [
                point.quantity,
                'sends',
                unit,
                writtenBy(place.table, place.size),
                place.address,
                place.size,
                point.pollMs ?? 'on change',
                ...cells(`sent ${point.id}`),
              ],
            ]
      }),
      ...(errors ? [['Errors', 'tells', '', '', '', '', '', errors.first, errors.count]] : []),
    ],
  }
}
