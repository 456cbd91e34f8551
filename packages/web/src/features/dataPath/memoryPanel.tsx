import { checkMemory, placeBlocks, type Memory, type MemoryBlock, type Placed } from '@calm/core/memory'
import { tables } from '@calm/core/modbus'
import type { Change } from '@calm/core/changes'
import type { Handshake, MemoryPlan } from '@calm/core/job'
import type { PlaceOrMissing } from '@calm/core/points'
import type { PackedRequest } from '@calm/core/packing'
import { parseWholeNumber } from '@calm/core/units'
import { numberText, readOpen, useTyped } from './useTyped'
import type { JobEdit } from '../../edit'
import { cn, Field, Glyph } from '../../ui'

type Key = keyof MemoryPlan
const labels: Readonly<Record<Key, string>> = {
  readFirst: 'Controller reads from word',
  readCount: 'Words that it reads',
  writeFirst: 'Controller writes from word',
  writeCount: 'Words that it writes',
  boundary: 'Blocks begin at multiples of',
  room: 'Words free behind each',
  states: 'Status words with each',
  errors: 'Error block at word (8 words)',
}
const keys = Object.keys(labels) as Key[]
/** There is at least one word to read, and blocks begin somewhere. */
const atLeast: Partial<Record<Key, number>> = { readCount: 1, boundary: 1 }
const MOST_WORDS = 100_000
const readNumber = (key: Key, text: string) =>
  parseWholeNumber(text, { name: labels[key], min: atLeast[key] ?? 0, max: MOST_WORDS })
const isKept = (key: Key, text: string) => (key === 'errors' && text.trim() === '') || readNumber(key, text).ok
const ERROR_WORDS = 8
const readSent = (text: string) => readOpen(text, 'Sent from word', 0, MOST_WORDS)

/** What goes to the device: so many words, from cells of the memory. */
export interface MemoryWrite {
  readonly id: string
  readonly name: string
  readonly words: number
}

/** Points that the controller writes, each with the words that it takes; bits take one. */
export const writesOf = (handshake: Handshake, places: readonly PlaceOrMissing[]): readonly MemoryWrite[] =>
  handshake.points.flatMap((point, k) => {
    const place = places[k]
    return point.access === 'read' || !place || 'missing' in place
      ? []
      : [
          {
            id: point.id,
            name: point.quantity,
            words: tables[place.table].bits === 1 ? Math.ceil(place.size / 16) : place.size,
          },
        ]
  })

interface MemoryProps {
  readonly requests: readonly PackedRequest[]
  readonly writes: readonly MemoryWrite[]
  readonly handshake: Handshake
  readonly edit: JobEdit
}

/** Where the answers of the requests go in the memory of a gateway or a module, and what collides there. */
export function MemoryPanel({ requests, writes, handshake, edit }: MemoryProps) {
  const plan = handshake.memory
  const planned = Object.fromEntries(keys.map((key) => [key, numberText(plan[key])])) as Record<Key, string>
  const { texts, type, leaving } = useTyped(planned, isKept, (changed) => {
    const now = { ...planned, ...changed }
    const memory = Object.fromEntries(
      keys.map((key) => {
        const read = readNumber(key, now[key])
        return [key, read.ok ? read.value : key === 'errors' && now[key].trim() === '' ? null : plan[key]]
      }),
    ) as unknown as MemoryPlan
    const sending = edit.set('Memory between the ends changed.', 'handshake', handshake, { memory })
    edit.attempt(sending)
    return sending
  })
  const read = (key: Key) => readNumber(key, texts[key])
  const numbers = {
    readFirst: read('readFirst'),
    readCount: read('readCount'),
    writeFirst: read('writeFirst'),
    writeCount: read('writeCount'),
    boundary: read('boundary'),
    room: read('room'),
    states: read('states'),
  }
  const errors = texts.errors.trim() === '' ? undefined : read('errors')
  const { readFirst, readCount, writeFirst, writeCount, boundary, room, states } = numbers
  const sent = useTyped(
    Object.fromEntries(handshake.points.map((point) => [point.id, numberText(point.sentFrom)])),
    (_id, text) => readSent(text).ok,
    (changed) => {
      const changes = handshake.points.flatMap((point): readonly Change[] => {
        const from = readSent(changed[point.id] ?? '')
        return changed[point.id] === undefined || !from.ok
          ? []
          : [{ op: 'set', table: 'point', id: point.id, version: point.version, fields: { sentFrom: from.value } }]
      })
      const sending = edit.change('Where points are sent from changed.', changes)
      edit.attempt(sending)
      return sending
    },
  )
  const sentFrom = (id: string) => {
    const text = sent.texts[id] ?? ''
    return text.trim() === '' ? undefined : readSent(text)
  }
  const ready =
    readFirst.ok &&
    readCount.ok &&
    writeFirst.ok &&
    writeCount.ok &&
    boundary.ok &&
    room.ok &&
    states.ok &&
    errors?.ok !== false &&
    writes.every(({ id }) => sentFrom(id)?.ok !== false)
  const memory: Memory | undefined = ready
    ? {
        read: { first: readFirst.value, count: readCount.value },
        write: { first: writeFirst.value, count: writeCount.value },
        blocks: [
          ...(errors?.ok
            ? [
                {
                  id: 'errors',
                  name: 'The error block',
                  use: 'status' as const,
                  first: errors.value,
                  count: ERROR_WORDS,
                },
              ]
            : []),
          ...requests.map((request, k) => blockOf(request, k, states.value)),
          ...writes.map(({ id, name, words }): MemoryBlock => {
            const from = sentFrom(id)
            return {
              id: `sent ${id}`,
              name: `${name}, sent`,
              use: 'send',
              first: from?.ok ? (from.value ?? undefined) : undefined,
              count: words,
            }
          }),
        ],
      }
    : undefined
  const placing = memory && ready ? placeBlocks(memory, { boundary: boundary.value, room: room.value }) : undefined
  const findings = memory && placing ? checkMemory({ ...memory, blocks: placing.blocks }) : []
  const troubleOf = (key: Key) => {
    const one = key === 'errors' ? errors : numbers[key]
    return one && !one.ok ? one.refusal : undefined
  }
  return (
    <section aria-label="Memory" className="border-t border-rule-strong pt-3">
      <h2 className="font-heavy">Memory of a gateway or module</h2>
      <div className="mt-1.5 grid grid-cols-4 items-end gap-3 max-tablet:grid-cols-2" {...leaving}>
        {keys.map((key) => (
          <Field
            key={key}
            label={labels[key]}
            inputMode="numeric"
            typed
            value={texts[key]}
            trouble={troubleOf(key)}
            onChange={(value) => type(key, value)}
          />
        ))}
      </div>
      {writes.length > 0 && (
        <div className="mt-2 grid grid-cols-4 items-end gap-3 max-tablet:grid-cols-2" {...sent.leaving}>
          {writes.map(({ id, name }) => {
            const from = sentFrom(id)
            return (
              <Field
                key={id}
                label={`${name}: sent from word`}
                inputMode="numeric"
                typed
                placeholder="is placed"
                value={sent.texts[id] ?? ''}
                trouble={from && !from.ok ? from.refusal : undefined}
                onChange={(value) => sent.type(id, value)}
              />
            )
          })}
        </div>
      )}
      {memory && placing && (
        <>
          <MemoryStrip memory={memory} placed={placing.blocks} />
          <p className="mt-1" role="status">
            {placing.verdict === 'placed'
              ? `${placing.blocks.length} block${placing.blocks.length === 1 ? '' : 's'} placed; the last ends at word ${Math.max(0, ...placing.blocks.map(({ first, count }) => first + count - 1))}.`
              : placing.verdict === 'no-room'
                ? `No room for ${placing.missing.join(', ')}: however they are put, they do not fit.`
                : `No place was found for ${placing.missing.join(', ')}; not every way was tried.`}
          </p>
          <ul className="grid gap-1">
            {findings.map((finding) => (
              <li
                key={finding.say}
                className={cn('grid grid-cols-[18px_1fr] gap-1.5', finding.severity === 'stop' && 'text-odds')}
              >
                <Glyph state={finding.severity === 'stop' ? 'at-odds' : 'in-hand'} size={14} />
                {finding.say}
              </li>
            ))}
          </ul>
        </>
      )}
    </section>
  )
}

/** @param states words of status that come with each block, behind its data */
const blockOf = (request: PackedRequest, k: number, states: number): MemoryBlock => ({
  id: `${k}`,
  name: `Command ${k + 1}`,
  use: 'fill',
  first: undefined,
  count: (tables[request.table].bits === 1 ? Math.ceil(request.count / 16) : request.count) + states,
})

/** The memory from left to right, as it is filled. */
function MemoryStrip({ memory, placed }: { memory: Memory; placed: readonly Placed[] }) {
  const end = Math.max(
    memory.read.first + memory.read.count,
    memory.write.first + memory.write.count,
    ...placed.map(({ first, count }) => first + count),
  )
  const share = (cells: number) => `${(100 * cells) / end}%`
  return (
    <div
      className="relative mt-2 h-8 border border-rule-strong"
      role="img"
      aria-label={`Memory: ${placed.map(({ name, first, count }) => `${name} at ${first} to ${first + count - 1}`).join(', ')}`}
    >
      <span
        className="absolute inset-y-0 bg-ground"
        style={{ left: share(memory.read.first), width: share(memory.read.count) }}
      />
      {placed.map(({ id, name, use, first, count }) => (
        <span
          key={id}
          title={`${name}: words ${first} to ${first + count - 1}`}
          className={
            use === 'status'
              ? 'absolute inset-y-1 border-r border-sheet bg-odds-mark'
              : use === 'send'
                ? 'absolute inset-y-2 border-r border-sheet bg-ink'
                : 'absolute inset-y-1 border-r border-sheet bg-proven'
          }
          style={{ left: share(first), width: share(count) }}
        />
      ))}
    </div>
  )
}
