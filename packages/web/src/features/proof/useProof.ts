import { deviceOf, devicePlanOf, type Handshake, type Job, type Point } from '@calm/core/job'
import { judgePath, staleMs, type Observation, type PathJudgement } from '@calm/core/path'
import { instant } from '@calm/core/units'
import { parseDecimal } from '@calm/core/values'
import { useMemo, useState } from 'react'
import { serverNow, useLiveReadings, type Readings, type ReadingsByPoint, type TimedReading } from '../../api'
import { useNow } from '../../shell'

/** What is typed at a hop that cannot be asked. */
export interface TypedValue {
  readonly text: string
  readonly at: number
}

/** The server takes no value as typed now that was typed before the reading; its clock and ours may differ a little. */
const EARLY_SLACK_MS = 1_000

const nothing: TypedValue = { text: '', at: 0 }

/** What is read of a handshake: every point of it, as long as somebody wants it. */
export interface LiveOfHandshake {
  readonly readings: ReadingsByPoint
  /** Whether anything is read at all. */
  readonly reading: boolean
  readonly toggleReading: () => void
}

export function useLiveOfHandshake(job: Job, handshake: Handshake): LiveOfHandshake {
  // On the plant nothing is asked before somebody says so; on the bench nobody is disturbed.
  const [reading, setReading] = useState(job.mode === 'bench')
  const readings = useLiveReadings(reading ? handshake.id : undefined)
  return { readings, reading, toggleReading: () => setReading((before) => !before) }
}

const NONE: Readings = {}

/** The path of a point: what is read live or held, what is typed, and how core judges it. */
export function useProof(job: Job, handshake: Handshake, point: Point, ofHandshake: LiveOfHandshake) {
  const { reading, toggleReading } = ofHandshake
  const live = ofHandshake.readings[point.id] ?? NONE
  const [held, setHeld] = useState<Readings | undefined>(undefined)
  const [controllerTyped, setControllerTyped] = useState(nothing)
  const [shownTyped, setShownTyped] = useState(nothing)
  const readings = held ?? live
  const asksController = point.served !== null
  // Looked at again as time goes on: a value that stands still gets old without a word.
  const now = serverNow(useNow(reading && held === undefined))

  /** What is typed is held against what was read when it was looked at, not against what comes later. */
  const holdToType = () => {
    if (live.device?.value !== null && live.device !== undefined) setHeld((before) => before ?? live)
  }

  const judgement = useMemo(
    () =>
      judge(
        job,
        handshake,
        point,
        readings,
        { reads: reading, held: held !== undefined, now },
        asksController ? undefined : controllerTyped,
        point.shownAt === '' ? undefined : shownTyped,
      ),
    [job, handshake, point, readings, reading, held, now, asksController, controllerTyped, shownTyped],
  )
  return {
    readings,
    reading,
    toggleReading,
    held: held !== undefined,
    /** Freezes what is live, so that the other side can be typed in peace; pressed again, lets it go. */
    toggleHold: () => setHeld((before) => (before ? undefined : live)),
    letGo: () => setHeld(undefined),
    asksController,
    controllerTyped,
    setControllerTyped: (text: string) => {
      holdToType()
      setControllerTyped({ text, at: serverNow() })
    },
    shownTyped,
    setShownTyped: (text: string) => {
      holdToType()
      setShownTyped({ text, at: serverNow() })
    },
    judgement,
  }
}

export type Proof = ReturnType<typeof useProof>

function judge(
  job: Job,
  handshake: Handshake,
  point: Point,
  readings: Readings,
  { reads, held, now }: { readonly reads: boolean; readonly held: boolean; readonly now: number },
  controllerTyped: TypedValue | undefined,
  shownTyped: TypedValue | undefined,
): PathJudgement {
  const tag = (id: string) => deviceOf(job, id)?.tag ?? ''
  const plan = devicePlanOf(job, handshake, point)
  const seen = (at: string, reading: TimedReading | undefined): Observation => ({
    at,
    words: reading?.words ?? undefined,
    value: reading?.value ?? undefined,
    seen: reading ? instant(reading.at) : undefined,
    source: held ? 'held' : 'live',
    staleMs: reading && !held ? staleMs(reading.at, reading.interval, now) : undefined,
    silence: reading ? reading.silence : reads ? 'Waiting for the first answer.' : 'Not read yet.',
  })
  const typed = (at: string, { text, at: when }: TypedValue): Observation => {
    const read = parseDecimal(text)
    const early = when < (readings.device?.at ?? 0) - EARLY_SLACK_MS
    return {
      at,
      words: undefined,
      value: read.ok && !early ? read.value : undefined,
      seen: read.ok && !early ? instant(when) : undefined,
      source: 'typed',
      silence: !read.ok
        ? text === ''
          ? 'Type what it shows.'
          : read.refusal.what
        : early
          ? 'Typed before this reading was made. Look again, and type what it shows now.'
          : '',
    }
  }
  return judgePath({
    hops: [
      seen(tag(handshake.deviceId), readings.device),
      controllerTyped
        ? typed(tag(handshake.controllerId), controllerTyped)
        : seen(tag(handshake.controllerId), readings.controller),
      ...(shownTyped ? [typed(point.shownAt, shownTyped)] : []),
    ],
    reference: point.reference?.value,
    tolerance: point.tolerance,
    unit: point.unit,
    format: plan.ok ? plan.value.format : undefined,
    scale: plan.ok ? plan.value.scale : 1,
    offset: plan.ok ? plan.value.offset : 0,
  })
}
