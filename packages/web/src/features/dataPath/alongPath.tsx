import { deviceOf, type Handshake, type Job, type Point } from '@calm/core/job'
import { findFaults, type PathHop, type PathSeen } from '@calm/core/path'
import type { PointPlace } from '@calm/core/points'
import { parseDecimal } from '@calm/core/values'
import { useMemo, useState } from 'react'
import { Field, Glyph } from '../../ui'
import { aligned, setLook, type Look } from './looks'

interface AlongProps {
  readonly job: Job
  readonly handshake: Handshake
  readonly point: Point
  readonly place: PointPlace
  readonly looks: readonly Look[]
}

const glyphs = {
  'as-planned': 'proven',
  explained: 'at-odds',
  unexplained: 'at-odds',
  'not-conclusive': 'not-started',
} as const

/** The same point further on: what the tag and the screen show of these registers, and at which hop it turns wrong. */
export function AlongPath({ job, handshake, point, place, looks }: AlongProps) {
  const controller = deviceOf(job, handshake.controllerId)?.tag ?? 'the controller'
  const finding = useMemo(
    () => findFaults(pathOf(job, handshake, point, place, looks)),
    [job, handshake, point, place, looks],
  )
  if (looks.length === 0) return null
  const last = looks.length - 1
  return (
    <section className="border-t border-rule-strong pt-3" aria-label="Along the path">
      <h2 className="font-heavy">Along the path</h2>
      <div className="mt-1 grid grid-cols-[1fr_auto] items-end gap-3">
        <ol className="grid gap-1">
          {finding.hops.map((hop) => (
            <li key={hop.name} data-path-hop={hop.name} className="grid grid-cols-[18px_1fr] gap-1.5">
              <Glyph state={glyphs[hop.verdict]} size={14} />
              <span>
                <b className="font-heavy">{hop.name}</b>{' '}
                {hop.verdict === 'as-planned'
                  ? `shows what ${hop.against} holds, at ${hop.compared} look${hop.compared === 1 ? '' : 's'}.`
                  : hop.verdict === 'not-conclusive'
                    ? 'was not seen: nothing to compare.'
                    : hop.verdict === 'unexplained'
                      ? `does not show what ${hop.against} holds, and nothing that was tried explains it.`
                      : `${hop.equals.map(({ faults }) => faults.map(({ say }) => say).join(' and ')).join('; or ')}.`}
              </span>
            </li>
          ))}
        </ol>
        <div className="flex gap-2">
          <Shown
            key={`tag ${looks[last]?.at}`}
            label={`Tag in ${controller}`}
            value={looks[last]?.tag}
            onValue={(tag, tagAllowed) => setLook(point.id, last, { tag, tagAllowed })}
          />
          {point.shownAt !== '' && (
            <Shown
              key={`screen ${looks[last]?.at}`}
              label={point.shownAt}
              value={looks[last]?.screen}
              onValue={(screen, screenAllowed) => setLook(point.id, last, { screen, screenAllowed })}
            />
          )}
        </div>
      </div>
    </section>
  )
}

interface ShownProps {
  readonly label: string
  readonly value: number | undefined
  readonly onValue: (value: number | undefined, allowed: number) => void
}

/** What somebody sees at the last look; blank is not seen. It is known to half of its last digit. */
function Shown({ label, value, onValue }: ShownProps) {
  const [text, setText] = useState(value === undefined ? '' : String(value))
  const read = text.trim() === '' ? undefined : parseDecimal(text, label)
  return (
    <Field
      className="w-36"
      label={label}
      inputMode="decimal"
      typed
      value={text}
      trouble={read && !read.ok ? read.refusal : undefined}
      onChange={(next) => {
        setText(next)
        const typed = parseDecimal(next)
        const decimals = /\.(\d*)$/.exec(next.trim())?.[1]?.length ?? 0
        onValue(typed.ok ? typed.value : undefined, 0.5 * 10 ** -decimals)
      }}
    />
  )
}

function pathOf(job: Job, handshake: Handshake, point: Point, place: PointPlace, looks: readonly Look[]): PathSeen {
  const { first, samples } = aligned(looks)
  const { plan, address, size } = place
  const tag = deviceOf(job, handshake.deviceId)?.tag ?? 'the device'
  const forced = job.forced.some((each) => each.releasedAt === null && each.where.includes(point.tag))
  const hops: readonly PathHop[] = [
    { kind: 'words', name: tag, first, at: address, samples: samples.map(({ words }) => words) },
    {
      kind: 'value',
      name: point.tag,
      samples: looks.map((look) => look.tag),
      // Registers and tag are read one after the other, and the plant moves meanwhile.
      allowed: looks.reduce(
        (most, { tag = 0, tagAllowed = 0 }) => Math.max(most, Math.abs(tag) * MEANWHILE + tagAllowed),
        0,
      ),
      isForced: forced,
    },
    ...(point.shownAt === ''
      ? []
      : [
          {
            kind: 'value' as const,
            name: point.shownAt,
            samples: looks.map((look) => look.screen),
            allowed: Math.max(0.5 * 10 ** -point.decimals, ...looks.map(({ screenAllowed = 0 }) => screenAllowed)),
          },
        ]),
  ]
  return {
    hops,
    format: plan.format,
    registers: size,
    scale: plan.scale,
    offset: plan.offset,
    span: point.low !== null && point.high !== null ? { low: point.low, high: point.high } : undefined,
    unit: point.unit,
    others: [],
  }
}

/** How far a value may move between two reads that belong together. */
const MEANWHILE = 0.005
