import { deviceOf, type Handshake, type Job, type Point } from '@calm/core/job'
import { findFaults, type HopExplanation, type HopFinding, type PathHop, type PathSeen } from '@calm/core/path'
import type { OtherReading, PointPlace } from '@calm/core/points'
import { parseWholeNumber } from '@calm/core/units'
import { parseDecimal } from '@calm/core/values'
import { useMemo, useState } from 'react'
import { Button, Field } from '../../ui'
import { aligned, setLook, type Look } from './looks'
import { PasteWords } from './pasteWords'
import { PathStrip } from './pathStrip'
import type { PastedWords } from './readWords'

interface AlongProps {
  readonly job: Job
  readonly handshake: Handshake
  readonly point: Point
  readonly place: PointPlace
  readonly looks: readonly Look[]
  readonly found: FoundAtController
}

/** What can be written as found at the controller, where it takes the registers otherwise than planned. */
interface FoundAtController {
  readonly can: (reading: OtherReading) => boolean
  readonly isWritten: (reading: OtherReading) => boolean
  readonly onFound: (reading: OtherReading, say: string) => void
}

/** The same point further on: what the tag and the screen show of these registers, and at which hop it turns wrong. */
export function AlongPath({ job, handshake, point, place, looks, found }: AlongProps) {
  const controller = deviceOf(job, handshake.controllerId)?.tag ?? 'the controller'
  const device = deviceOf(job, handshake.deviceId)?.tag ?? 'the device'
  const last = looks.length - 1
  const between = looks.findLast((look) => look.between)?.between
  const [begins, setBegins] = useState(between ? String(between.first) : '')
  const atTyped = parseWholeNumber(begins, { name: 'The word', min: 0, max: 1_000_000 })
  const at = atTyped.ok ? atTyped.value : undefined
  const path = useMemo(() => pathOf(job, handshake, point, place, looks, at), [job, handshake, point, place, looks, at])
  const finding = useMemo(() => findFaults(path), [path])
  if (looks.length === 0) return null
  return (
    <section className="border-t border-rule-strong pt-3" aria-label="Along the path">
      <h2 className="font-heavy">Along the path</h2>
      <PathStrip
        path={path}
        findings={finding.hops}
        decimals={point.decimals}
        fields={{
          [point.tag]: (
            <Shown
              key={`tag ${looks[last]?.at}`}
              label={`Tag in ${controller}`}
              value={looks[last]?.tag}
              onValue={(tag, tagAllowed) => setLook(point.id, last, { tag, tagAllowed })}
            />
          ),
          [point.shownAt]: (
            <Shown
              key={`screen ${looks[last]?.at}`}
              label="Shown there"
              value={looks[last]?.screen}
              onValue={(screen, screenAllowed) => setLook(point.id, last, { screen, screenAllowed })}
            />
          ),
        }}
      />
      <ol className="mt-2 grid gap-1">
        {finding.hops.map((hop) => (
          <li key={hop.name} data-path-hop={hop.name}>
            <b className="font-heavy">{hop.name}</b> {sayHop(hop)}
            {hop.against === device &&
              hop.equals.map((each) => {
                const { reading } = each
                if (!reading || !found.can(reading)) return null
                return found.isWritten(reading) ? (
                  <span key={sayFaults(each)} className="block note">
                    Written as found at {controller}: Terms shows what is to be entered there.
                  </span>
                ) : (
                  <Button
                    key={sayFaults(each)}
                    className="mt-1 block"
                    onClick={() => found.onFound(reading, sayFaults(each))}
                  >
                    As found at {controller}
                    {hop.equals.length > 1 && `: ${sayFaults(each)}`}
                  </Button>
                )
              })}
          </li>
        ))}
      </ol>
      <div className="mt-2 flex flex-wrap items-end gap-3">
        <PasteWords
          label={between ? 'Words between, again' : 'Words in a memory between'}
          title="Words in the memory of a gateway or a controller"
          from={between?.first ?? place.address}
          onWords={(words) => {
            setLook(point.id, last, { between: words })
            if (at === undefined) setBegins(String(words.first))
          }}
        />
        {between && (
          <Field
            className="w-44"
            label="There it begins at word"
            inputMode="numeric"
            typed
            value={begins}
            trouble={atTyped.ok ? undefined : atTyped.refusal}
            onChange={setBegins}
          />
        )}
        <PasteWords
          label={looks[last]?.other ? 'Words of another unit, again' : 'Words of another unit'}
          title="Words of another unit, from the same registers"
          from={place.address}
          onWords={(words) => setLook(point.id, last, { other: words })}
        />
        <p className="note">Both belong to the last look. What comes from elsewhere is found by what it looks like.</p>
      </div>
    </section>
  )
}

/** What a hop comes to, after its name. */
function sayHop({ name, against, verdict, compared, equals }: HopFinding): string {
  switch (verdict) {
    case 'as-planned':
      return `shows what ${against} holds, at ${compared} look${compared === 1 ? '' : 's'}.`
    case 'not-conclusive':
      return 'was not seen: nothing to compare.'
    case 'unexplained':
      return `does not show what ${against} holds, and nothing that was tried explains it.`
    case 'explained':
      return `${equals.map((each) => sayFaults(each).replace(`${name} `, '')).join('; or ')}.`
  }
}

const sayFaults = ({ faults }: HopExplanation): string => faults.map(({ say }) => say).join(' and ')

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

/** Words of looks that begin at one word: another beginning is another paste, and not compared. */
const samplesFrom = (first: number, looks: readonly (PastedWords | undefined)[]) =>
  looks.map((each) => (each?.first === first ? each.words : undefined))

/** @param at where the point begins in the memory between; open where nobody says it: then that hop is left out */
function pathOf(
  job: Job,
  handshake: Handshake,
  point: Point,
  place: PointPlace,
  looks: readonly Look[],
  at: number | undefined,
): PathSeen {
  const { first, samples } = aligned(looks)
  const { plan, address, size } = place
  const between = looks.findLast((look) => look.between)?.between
  const tag = deviceOf(job, handshake.deviceId)?.tag ?? 'the device'
  const forced = job.forced.some((each) => each.releasedAt === null && each.where.includes(point.tag))
  const hops: readonly PathHop[] = [
    { kind: 'words', name: tag, first, at: address, samples: samples.map(({ words }) => words) },
    ...(between && at !== undefined
      ? [
          {
            kind: 'words' as const,
            name: 'the memory between',
            first: between.first,
            at,
            samples: samplesFrom(
              between.first,
              looks.map((look) => look.between),
            ),
          },
        ]
      : []),
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
    others: looks.some(({ other }) => other)
      ? [{ name: 'another unit', samples: looks.map(({ other }) => otherAt(other, address, size)) }]
      : [],
  }
}

/** Words of another unit at the point's own registers; `undefined` where one of them was not given. */
function otherAt(other: PastedWords | undefined, address: number, size: number): readonly number[] | undefined {
  const own = Array.from({ length: size }, (_, k) => other?.words[address + k - other.first])
  return own.every((word) => word !== undefined) ? own : undefined
}

/** How far a value may move between two reads that belong together. */
const MEANWHILE = 0.005
