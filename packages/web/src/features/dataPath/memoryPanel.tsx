import { checkMemory, placeBlocks, type Memory, type Placed } from '@calm/core/memory'
import type { Change } from '@calm/core/changes'
import type { Handshake, MemoryPlan } from '@calm/core/job'
import { memoryOf, type MemoryWrite } from '@calm/core/points'
import type { PackedRequest } from '@calm/core/packing'
import { parseWholeNumber, type Result } from '@calm/core/units'
import { numberText, readOpen, useTyped } from './useTyped'
import type { JobEdit } from '../../edit'
import { cn, Field, Glyph, tip } from '../../ui'

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
/** What a gateway needs not have, and what nobody may have said yet. */
const mayBeOpen: ReadonlySet<Key> = new Set(['readFirst', 'readCount', 'writeFirst', 'writeCount', 'errors'])
const readNumber = (key: Key, text: string) =>
  mayBeOpen.has(key)
    ? readOpen(text, labels[key], atLeast[key] ?? 0, MOST_WORDS)
    : parseWholeNumber(text, { name: labels[key], min: atLeast[key] ?? 0, max: MOST_WORDS })
const readSent = (text: string) => readOpen(text, 'Sent from word', 0, MOST_WORDS)

/** The plan with what is typed over it; what cannot be read is as it was. */
const planWith = (plan: MemoryPlan, texts: Partial<Record<Key, string>>): MemoryPlan =>
  Object.fromEntries(
    keys.map((key) => {
      const text = texts[key]
      const read = text === undefined ? undefined : readNumber(key, text)
      return [key, read?.ok ? read.value : plan[key]]
    }),
  ) as unknown as MemoryPlan

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
  const { texts, type, leaving } = useTyped(
    planned,
    (key, text) => readNumber(key, text).ok,
    (changed) => {
      const memory = planWith(plan, changed)
      const sending = edit.set('Memory between the ends changed.', 'handshake', handshake, { memory })
      edit.attempt(sending)
      return sending
    },
  )
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
  const sentFrom = (id: string) => readSent(sent.texts[id] ?? '')
  const isRead =
    keys.every((key) => readNumber(key, texts[key]).ok) && writes.every(({ point }) => sentFrom(point.id).ok)
  const laid = isRead
    ? memoryOf(planWith(plan, texts), requests, writes, ({ id }) => {
        const from = sentFrom(id)
        return from.ok ? (from.value ?? undefined) : undefined
      })
    : undefined
  const missing = laid && 'missing' in laid ? laid.missing : []
  const memory = laid && 'memory' in laid ? laid.memory : undefined
  const placing = laid && 'memory' in laid ? placeBlocks(laid.memory, laid.rules) : undefined
  const findings = memory && placing ? checkMemory({ ...memory, blocks: placing.blocks }) : []
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
            trouble={troubleIn(readNumber(key, texts[key]))}
            onChange={(value) => type(key, value)}
          />
        ))}
      </div>
      {writes.length > 0 && (
        <div className="mt-2 grid grid-cols-4 items-end gap-3 max-tablet:grid-cols-2" {...sent.leaving}>
          {writes.map(({ point: { id, quantity } }) => (
            <Field
              key={id}
              label={`${quantity}: sent from word`}
              inputMode="numeric"
              typed
              placeholder="is placed"
              value={sent.texts[id] ?? ''}
              trouble={troubleIn(sentFrom(id))}
              onChange={(value) => sent.type(id, value)}
            />
          ))}
        </div>
      )}
      {missing.length > 0 && (
        <p className="mt-1.5 note" role="status">
          Nothing is placed yet, not known: {missing.map((key) => labels[key].toLowerCase()).join(', ')}.
        </p>
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

const troubleIn = (read: Result<unknown>) => (read.ok ? undefined : read.refusal)

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
          {...tip(`${name}: words ${first} to ${first + count - 1}`)}
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
