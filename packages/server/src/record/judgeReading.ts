import type { LiveHop, LiveReading, ReadingEvidence } from '@calm/contract'
import { deviceOf, handshakeTermsOf, type Handshake, type Job, type Point } from '@calm/core/job'
import { wordText } from '@calm/core/modbus'
import { judgePath, type Observation, type PathJudgement } from '@calm/core/path'
import { readPlanOf } from '@calm/core/terms'
import { instant } from '@calm/core/units'
import { formatNumber, parseDecimal, toleranceText } from '@calm/core/values'
import { format, formatISO, isValid } from 'date-fns'
import { hopPlan, planText, type KeptReading } from '../live'
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
  const live = (hop: LiveHop, sequence: number, where: string): LiveReading => {
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
    const plan = planText(hopPlan(job, handshake, point, found.reading.hop))
    if (found.asked !== plan) {
      throw refusedBecause(
        'This reading was made before the plan changed; it says nothing about the plan as it is now. Read again.',
        plan,
        found.asked,
        where,
      )
    }
    if (found.reading.hop !== hop) {
      throw refusedBecause(
        `This is a reading of the ${found.reading.hop}.`,
        `a reading of the ${hop}`,
        found.reading.hop,
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
  const hops = observations(job, handshake, point, request, live, now)
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

/** Clocks of a page and of this server may differ by so much. */
const CLOCK_SLACK_MS = 2_000

/**
 * When a shown value was typed: after the reading that it is held against was made, and not in the time to come.
 * Within the slack of two clocks it is moved to the nearer end.
 */
function typedWhen(typedAt: number, readAt: number, now: number): number {
  if (typedAt < readAt - CLOCK_SLACK_MS || typedAt > now + CLOCK_SLACK_MS) {
    const clock = (at: number) => (isValid(new Date(at)) ? formatISO(at) : String(at))
    throw refusedBecause(
      typedAt > now
        ? 'The time at which the value was typed is still to come. Look at the clock of the device you type on.'
        : 'The value was typed before the reading was made. Look at the screen again and type what it shows now.',
      `a time from ${clock(readAt)} to ${clock(now)}`,
      clock(typedAt),
      'typedAt',
    )
  }
  return Math.min(Math.max(typedAt, readAt), now)
}

function observations(
  job: Job,
  handshake: Handshake,
  point: Point,
  request: ReadingEvidence,
  live: (hop: LiveHop, sequence: number, where: string) => LiveReading,
  now: number,
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
    return {
      at,
      words: undefined,
      value: read.value,
      seen: instant(typedWhen(request.typedAt, deviceReading.at, now)),
      source: 'typed',
      silence: '',
    }
  }
  const deviceReading = live('device', request.deviceReading, 'deviceReading')
  const deviceHop = seen(device, deviceReading)
  const controllerHop =
    request.controllerReading !== null
      ? seen(controller, live('controller', request.controllerReading, 'controllerReading'))
      : typed(controller, request.controllerTyped ?? '', 'controllerTyped')
  return [
    deviceHop,
    controllerHop,
    ...(request.shownTyped === null ? [] : [typed(point.shownAt || 'Screen', request.shownTyped, 'shownTyped')]),
  ]
}
