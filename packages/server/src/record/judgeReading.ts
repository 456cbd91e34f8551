import type { LiveHop, LiveReading, ReadingEvidence } from '@calm/contract'
import { deviceOf, devicePlanOf, type Handshake, type Job, type Point } from '@calm/core/job'
import { judgedAgain, type EvidenceFact, type ReadingFact } from '@calm/core/evidence'
import { judgePath, type Observation, type PathJudgement } from '@calm/core/path'
import type { ReadPlan } from '@calm/core/terms'
import { instant } from '@calm/core/units'
import { parseDecimal } from '@calm/core/values'
import { formatISO } from 'date-fns/formatISO'
import { isValid } from 'date-fns/isValid'
import { hopPlan, planText, WHEN_QUIET, type KeptReading } from '../live'
import { refusedBecause, witnessOf, type EvidenceContent, type Witness } from '../store'

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
): EvidenceContent & { readonly judgement: PathJudgement; readonly point: Point } {
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
  let witness: Witness | undefined
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
    witness = witnessOf({
      before: found.asked,
      now: planText(hopPlan(job, handshake, point, found.reading.hop)),
      say: 'This reading was made before the plan changed; it says nothing about the plan as it is now. Read again.',
      where,
    })
    if (found.reading.hop !== hop) {
      throw refusedBecause(
        `This is a reading of the ${found.reading.hop}.`,
        `a reading of the ${hop}`,
        found.reading.hop,
        where,
      )
    }
    if (found.reading.unsure !== '')
      throw refusedBecause(
        `${found.reading.unsure} A value of then proves nothing. ${WHEN_QUIET}`,
        'a reading of a line that was quiet',
        found.reading.text,
        where,
      )
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
  const plan = devicePlanOf(job, handshake, point)
  const { quantity, unit, decimals, tag } = point
  const facts: readonly EvidenceFact[] = [
    { kind: 'point', tag, quantity, unit, decimals },
    ...hops.map((hop, k) => readingFact(hop, k === 0 && plan.ok ? plan.value : undefined)),
    { kind: 'reference', value: point.reference.value, origin: point.reference.origin, tolerance: point.tolerance },
  ]
  // Judged from what is kept, so that whoever judges it again comes to the same.
  const judgement = judgedAgain(facts)
  if (!judgement || judgement.verdict === 'open') {
    const say = judgePath({
      hops: hops.map((hop) => hop.observation),
      reference: point.reference.value,
      tolerance: point.tolerance,
      unit: point.unit,
      format: undefined,
      scale: 1,
    }).say
    throw refusedBecause(`There is nothing to record yet. ${say}`, 'a value at every hop', say)
  }
  return {
    judgement,
    point,
    rung: 'reading',
    verdict: judgement.verdict,
    facts,
    ...(witness && hops.every((hop) => hop.observation.source !== 'typed')
      ? { how: 'read-live', witness }
      : { how: 'typed' }),
  }
}

/** What was seen at a hop, with the reading that it is from. */
interface SeenAtHop {
  readonly observation: Observation
  readonly reading: LiveReading | undefined
}

function readingFact({ observation, reading }: SeenAtHop, plan: ReadPlan | undefined): ReadingFact {
  return {
    kind: 'reading',
    place: observation.at,
    source: observation.source,
    value: observation.value ?? null,
    words: observation.words ?? null,
    at: observation.seen ?? null,
    asked: reading?.asked ?? '',
    request: reading?.requestHex ?? '',
    answer: reading?.responseHex ?? '',
    milliseconds: reading?.roundTripMs ?? null,
    ...(plan && { format: plan.format, scale: plan.scale, ...(plan.offset !== 0 && { offset: plan.offset }) }),
  }
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
): readonly SeenAtHop[] {
  const controller = deviceOf(job, handshake.controllerId)?.tag ?? 'Controller'
  const device = deviceOf(job, handshake.deviceId)?.tag ?? 'Device'
  const seen = (at: string, reading: LiveReading): SeenAtHop => ({
    reading,
    observation: {
      at,
      words: reading.words ?? undefined,
      value: reading.value ?? undefined,
      seen: instant(reading.at),
      source: 'live',
      silence: reading.silence,
    },
  })
  const typed = (at: string, text: string, where: string): SeenAtHop => {
    const read = parseDecimal(text)
    if (!read.ok) throw refusedBecause(read.refusal.what, read.refusal.expected, read.refusal.found, where)
    return {
      reading: undefined,
      observation: {
        at,
        words: undefined,
        value: read.value,
        seen: instant(typedWhen(request.typedAt, deviceReading.at, now)),
        source: 'typed',
        silence: '',
      },
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
