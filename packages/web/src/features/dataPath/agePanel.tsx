import { judgeAge, type AgeJudgement, type PlannedStage, type Viewer } from '@calm/core/age'
import type { Handshake, PathTimes, Point } from '@calm/core/job'
import { USUAL_POLL_MS } from '@calm/core/points'
import { ok, refusal, type Result } from '@calm/core/units'
import { parseDecimal } from '@calm/core/values'
import { useState } from 'react'
import { numberText, useTyped } from './useTyped'
import type { JobEdit } from '../../edit'
import { Field, Glyph, Toggles } from '../../ui'

type Key = keyof PathTimes
/** Blank is not known; a gateway that is not there takes nothing. */
const labels: Readonly<Record<Key, string>> = {
  answerMs: 'Request and answer, at most ms',
  gatewayMs: 'Gateway, if any, every ms',
  taskMs: 'Task of the controller, ms',
  displayMs: 'Display refreshes every, ms',
}
const keys = Object.keys(labels) as Key[]
const forEach = <T,>(value: (key: Key) => T) =>
  Object.fromEntries(keys.map((key) => [key, value(key)])) as Readonly<Record<Key, T>>

const ms = (value: number) =>
  value >= 1000 ? `${Number((value / 1000).toPrecision(3))} s` : `${Number(value.toPrecision(3))} ms`

/** How old each value is where it is looked at, which part makes it so, and what one change would help most. */
export function AgePanel({ handshake, edit }: { handshake: Handshake; edit: JobEdit }) {
  const { texts, type, leaving } = useTyped(
    forEach((key) => numberText(handshake.times[key])),
    (key, text) => readTime(text, labels[key]).ok,
    (changed) => {
      const times = forEach((key) => {
        const read = readTime(changed[key] ?? numberText(handshake.times[key]), labels[key])
        return read.ok ? (read.value ?? null) : handshake.times[key]
      })
      const sent = edit.set('Times on the way changed.', 'handshake', handshake, { times })
      edit.attempt(sent)
      return sent
    },
  )
  const [viewer, setViewer] = useState<Viewer>('any-instant')
  const readings = forEach((key) => readTime(texts[key], labels[key]))
  const msOf = (key: Key) => (readings[key].ok ? readings[key].value : undefined)
  const isRead = Object.values(readings).every(({ ok }) => ok)
  const stagesOf = (pollMs: number): readonly PlannedStage[] => [
    { kind: 'looks', name: 'the poll', everyMs: pollMs },
    { kind: 'takes', name: 'request and answer', mostMs: msOf('answerMs') },
    ...(msOf('gatewayMs') === undefined
      ? []
      : [{ kind: 'looks' as const, name: 'the gateway', everyMs: msOf('gatewayMs') }]),
    { kind: 'looks', name: 'the task', everyMs: msOf('taskMs') },
    ...(viewer === 'any-instant' ? [{ kind: 'looks' as const, name: 'the display', everyMs: msOf('displayMs') }] : []),
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
      <div className="mt-2 grid max-w-200 grid-cols-4 items-end gap-3 max-phone:grid-cols-2" {...leaving}>
        {keys.map((key) => {
          const reading = readings[key]
          return (
            <Field
              key={key}
              label={labels[key]}
              inputMode="decimal"
              typed
              value={texts[key]}
              trouble={reading.ok ? undefined : reading.refusal}
              onChange={(value) => type(key, value)}
            />
          )
        })}
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

/** Milliseconds as typed; blank is not known. */
function readTime(text: string, name: string): Result<number | undefined> {
  if (text.trim() === '') return ok(undefined)
  const read = parseDecimal(text, name)
  if (!read.ok || read.value >= 0) return read
  return refusal('age.negative', `${text} is less than nothing.`, text, 'milliseconds, 0 or more')
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
  readonly stages: readonly PlannedStage[]
  readonly viewer: Viewer
}

const glyphs = { within: 'proven', late: 'at-odds', open: 'not-started' } as const

function AgeLine({ pollMs, points, stages, viewer }: LineProps) {
  const asked = points.flatMap(({ ageMs }) => (ageMs === null ? [] : [ageMs]))
  const strictest = asked.length === 0 ? null : Math.min(...asked)
  const judged = judgeAge(stages, viewer, strictest)
  return (
    <li className="grid grid-cols-[18px_1fr] gap-1.5">
      <Glyph state={glyphs[judged.verdict]} size={14} />
      <span>
        <b className="font-heavy">
          {points.length} every {ms(pollMs)}:
        </b>{' '}
        {sayAge(judged)} {sayAsked(judged, strictest)}
      </span>
    </li>
  )
}

const sayAge = ({ age, missing }: AgeJudgement): string =>
  missing.length > 0
    ? `at worst ${ms(age.worst)} or more; not known: ${missing.join(', ')}.`
    : `${ms(age.best)} at best, ${ms(age.typical)} on average, ${ms(age.worst)} at worst; most of it ${age.dominant}.`

function sayAsked({ verdict, missing, change }: AgeJudgement, askedMs: number | null): string {
  if (askedMs === null) return 'Nobody said how old it may be.'
  const asked = `Asked for: ${ms(askedMs)}.`
  if (verdict !== 'late') return asked
  if (missing.length > 0) return `${asked} What is known alone takes longer.`
  return change?.toMs === undefined
    ? `${asked} No single change is enough.`
    : `${asked} Enough alone: ${change.name} every ${ms(change.toMs)} instead of ${ms(change.fromMs)}.`
}
