import { ageAlong, changesFor, type AgeStage, type Viewer } from '@calm/core/age'
import type { Handshake, Point } from '@calm/core/job'
import { USUAL_POLL_MS } from '@calm/core/points'
import { parseDecimal } from '@calm/core/values'
import { useState } from 'react'
import { useKept } from './useKept'
import { Field, Glyph, Toggles } from '../../ui'

const taken = { gateway: '0', task: '20', display: '1000', answer: '50' }
type Taken = typeof taken
const labels: Readonly<Record<keyof Taken, string>> = {
  answer: 'Request and answer, at most ms',
  gateway: 'Gateway refreshes every, ms',
  task: 'Task of the controller, ms',
  display: 'Display refreshes every, ms',
}

const ms = (value: number) =>
  value >= 1000 ? `${Number((value / 1000).toPrecision(3))} s` : `${Number(value.toPrecision(3))} ms`

/** How old each value is where it is looked at, which part makes it so, and what one change would help most. */
export function AgePanel({ handshake }: { handshake: Handshake }) {
  const [typed, setTyped] = useKept<Taken>(`age.${handshake.id}`, taken)
  const [viewer, setViewer] = useState<Viewer>('any-instant')
  const numbers = Object.fromEntries(
    (Object.keys(taken) as (keyof Taken)[]).map((key) => {
      const read = parseDecimal(typed[key], labels[key])
      return [key, read.ok && read.value >= 0 ? read.value : undefined]
    }),
  ) as Readonly<Record<keyof Taken, number | undefined>>
  const { answer, gateway, task, display } = numbers
  const isRead = [answer, gateway, task, display].every((each) => each !== undefined)
  const stagesOf = (pollMs: number): readonly AgeStage[] => [
    { kind: 'looks', name: 'the poll', everyMs: pollMs },
    { kind: 'takes', name: 'request and answer', leastMs: 0, mostMs: answer ?? 0 },
    ...((gateway ?? 0) > 0 ? [{ kind: 'looks' as const, name: 'the gateway', everyMs: gateway ?? 0 }] : []),
    { kind: 'looks', name: 'the task', everyMs: task ?? 0 },
    ...(viewer === 'any-instant' ? [{ kind: 'looks' as const, name: 'the display', everyMs: display ?? 0 }] : []),
  ]
  return (
    <section aria-label="Age" className="border-t border-rule-strong pt-3">
      <div className="flex flex-wrap items-baseline gap-4">
        <h2 className="font-heavy">How old a value is</h2>
        <Toggles
          label="Looked at"
          size="small"
          value={viewer}
          items={[
            { value: 'any-instant', say: 'On the display', tip: 'At any instant, while it is held' },
            { value: 'moment-of-use', say: 'In the program', tip: 'At the moment when the task uses it' },
          ]}
          onChange={setViewer}
        />
      </div>
      <div className="mt-2 grid max-w-200 grid-cols-4 items-end gap-3 max-phone:grid-cols-2">
        {(Object.keys(taken) as (keyof Taken)[]).map((key) => (
          <Field
            key={key}
            label={labels[key]}
            inputMode="decimal"
            typed
            value={typed[key]}
            trouble={numbers[key] === undefined ? { what: 'No time.', expected: 'milliseconds, 0 or more' } : undefined}
            onChange={(value) => setTyped({ ...typed, [key]: value })}
          />
        ))}
      </div>
      {isRead && (
        <ul className="mt-2 grid gap-1">
          {ratesOf(handshake).map(({ pollMs, points }) => (
            <AgeLine key={pollMs} points={points} pollMs={pollMs} stages={stagesOf(pollMs)} viewer={viewer} />
          ))}
        </ul>
      )}
    </section>
  )
}

function ratesOf({ points }: Handshake): readonly { readonly pollMs: number; readonly points: readonly Point[] }[] {
  const rates = [...new Set(points.map(({ pollMs }) => pollMs ?? USUAL_POLL_MS))].sort((a, b) => a - b)
  return rates.map((pollMs) => ({
    pollMs,
    points: points.filter((point) => (point.pollMs ?? USUAL_POLL_MS) === pollMs),
  }))
}

interface LineProps {
  readonly pollMs: number
  readonly points: readonly Point[]
  readonly stages: readonly AgeStage[]
  readonly viewer: Viewer
}

function AgeLine({ pollMs, points, stages, viewer }: LineProps) {
  const age = ageAlong(stages, viewer)
  const asked = points.flatMap(({ ageMs }) => (ageMs === null ? [] : [ageMs]))
  const strictest = asked.length === 0 ? undefined : Math.min(...asked)
  const isLate = strictest !== undefined && age.worst > strictest
  const [change] = isLate ? changesFor(stages, viewer, strictest) : []
  return (
    <li className="grid grid-cols-[18px_1fr] gap-1.5">
      <Glyph state={strictest === undefined ? 'not-started' : isLate ? 'at-odds' : 'proven'} size={14} />
      <span>
        <b className="font-heavy">
          {points.length} every {ms(pollMs)}:
        </b>{' '}
        {ms(age.best)} at best, {ms(age.typical)} on average, {ms(age.worst)} at worst; most of it {age.dominant}.{' '}
        {strictest === undefined
          ? 'Nobody said how old it may be.'
          : isLate
            ? `Asked for: ${ms(strictest)}. ${
                change?.toMs === undefined
                  ? 'No single change is enough.'
                  : `Enough alone: ${change.name} every ${ms(change.toMs)} instead of ${ms(change.fromMs)}.`
              }`
            : `Asked for: ${ms(strictest)}.`}
      </span>
    </li>
  )
}
