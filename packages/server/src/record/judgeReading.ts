import type { LiveReading, ReadingEvidence } from '@calm/contract'
import { deviceOf, handshakeTermsOf, type Handshake, type Job, type Point } from '@calm/core/job'
import { wordText } from '@calm/core/modbus'
import { judgePath, type Observation, type PathJudgement } from '@calm/core/path'
import { readPlanOf } from '@calm/core/terms'
import { instant } from '@calm/core/units'
import { formatNumber, parseDecimal, toleranceText } from '@calm/core/values'
import { format } from 'date-fns'
import type { KeptReading } from '../live'
import { refusedBecause, type EvidenceContent } from '../store'

/** Readings may be this old when they are recorded: time to type what another screen shows. */
const OLDEST_MS = 15 * 60 * 1000

/**
 * Judges a reading again from what the server itself read, and words it as evidence. What the page thought of it does
 * not count: `proven` comes out only where every hop is inside the tolerance.
 */
export function readingEvidenceOf(
  job: Job,
  handshake: Handshake,
  request: ReadingEvidence,
  kept: (sequence: number) => KeptReading | undefined,
  now: number,
): EvidenceContent & { readonly judgement: PathJudgement } {
  const point = handshake.points.find((each) => each.id === request.pointId)
  if (!point)
    throw refusedBecause(
      'There is no such point in this handshake.',
      'a point of this handshake',
      request.pointId,
      'pointId',
    )
  if (!point.reference) {
    throw refusedBecause(
      'There is no reference to compare with.',
      'what an independent instrument or display shows',
      'nothing',
      'reference',
    )
  }
  const live = (sequence: number, where: string): LiveReading => {
    const found = kept(sequence)
    if (
      !found ||
      found.handshakeId !== handshake.id ||
      found.pointId !== point.id ||
      now - found.reading.at > OLDEST_MS
    ) {
      throw refusedBecause(
        'This reading is not known here any more; read again.',
        'a reading of the last 15 minutes',
        String(sequence),
        where,
      )
    }
    if (found.reading.mode !== job.mode) {
      throw refusedBecause(
        `This reading was made on the ${found.reading.mode}.`,
        `a reading of the ${job.mode}`,
        found.reading.mode,
        where,
      )
    }
    return found.reading
  }
  const hops = observations(job, handshake, point, request, live)
  const plan = readPlanOf(handshakeTermsOf(job, handshake), 'device')
  const judgement = judgePath({
    hops,
    reference: point.reference.value,
    tolerance: point.tolerance,
    unit: point.unit,
    format: plan.ok ? plan.value.format : undefined,
    scale: plan.ok ? plan.value.scale : 1,
  })
  if (judgement.verdict === 'open') {
    throw refusedBecause(`There is nothing to record yet. ${judgement.say}`, 'a value at every hop', judgement.say)
  }
  const shown = (value: number | undefined) =>
    value === undefined ? 'no value' : `${formatNumber(value, point.decimals)} ${point.unit}`.trim()
  return {
    judgement,
    rung: 'reading',
    verdict: judgement.verdict,
    how: hops.some((hop) => hop.source === 'typed') ? 'typed' : 'read-live',
    value: `${point.quantity}: ${hops.map((hop) => `${hop.at} ${shown(hop.value)}`).join(', ')}; reference ${shown(point.reference.value)} ${toleranceText(point.tolerance, point.unit)}. ${judgement.say}`,
    detail: [
      ...hops.map((hop) => hopLine(hop, shown(hop.value))),
      `reference ${shown(point.reference.value)}, ${point.reference.origin || 'origin not named'}`,
      ...(judgement.apart === undefined
        ? []
        : [`${(judgement.apart / 1000).toFixed(1)} s between the earliest and the latest`]),
    ],
  }
}

function hopLine(hop: Observation, shown: string): string {
  const words = hop.words ? ` words ${hop.words.map(wordText).join(' ')}` : ''
  const at = hop.seen === undefined ? '' : ` at ${format(hop.seen, 'HH:mm:ss')}`
  return `${hop.at}: ${shown}${words}, ${hop.source === 'typed' ? 'typed' : 'read live'}${at}`
}

function observations(
  job: Job,
  handshake: Handshake,
  point: Point,
  request: ReadingEvidence,
  live: (sequence: number, where: string) => LiveReading,
): readonly Observation[] {
  const controller = deviceOf(job, handshake.controllerId)?.tag ?? 'Controller'
  const device = deviceOf(job, handshake.deviceId)?.tag ?? 'Device'
  const seen = (at: string, reading: LiveReading): Observation => ({
    at,
    words: reading.words ?? undefined,
    value: reading.value ?? undefined,
    seen: instant(reading.at),
    source: 'live',
    silence: reading.silence,
  })
  const typed = (at: string, text: string, where: string): Observation => {
    const read = parseDecimal(text)
    if (!read.ok) throw refusedBecause(read.refusal.what, read.refusal.expected, read.refusal.found, where)
    return { at, words: undefined, value: read.value, seen: instant(request.typedAt), source: 'typed', silence: '' }
  }
  const deviceHop = seen(device, live(request.deviceReading, 'deviceReading'))
  const controllerHop =
    request.controllerReading !== null
      ? seen(controller, live(request.controllerReading, 'controllerReading'))
      : typed(controller, request.controllerTyped ?? '', 'controllerTyped')
  return [
    deviceHop,
    controllerHop,
    ...(request.shownTyped === null ? [] : [typed(point.shownAt || 'Screen', request.shownTyped, 'shownTyped')]),
  ]
}
