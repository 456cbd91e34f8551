import type { Bench, PolledTag } from '@calm/bench'
import { formatIpv4 } from '@calm/core/address'
import { deviceOf, handshakeTermsOf, reachedAt, type Handshake, type Job, type Point } from '@calm/core/job'
import { parseReference } from '@calm/core/modbus'
import { readPlanOf, type HandshakeTerms } from '@calm/core/terms'

/**
 * On the bench the controller's program follows the controller end of the terms, as if each change were typed into
 * the program and downloaded. A handshake whose controller end is not complete is not polled.
 */
export function loadBenchProgram(bench: Bench, job: Job): void {
  const byController = new Map<string, PolledTag[]>()
  for (const handshake of job.handshakes) {
    const at = reachedAt(job, deviceOf(job, handshake.controllerId))?.address
    if (!at) continue
    const tags = byController.get(at) ?? []
    byController.set(at, tags)
    tags.push(...tagsOf(handshake, handshakeTermsOf(job, handshake)))
  }
  for (const [address, tags] of byController) bench.loadProgram(address, tags)
}

interface MadeTags {
  readonly terms: string
  readonly tags: readonly PolledTag[]
}

/** With thousands of points a change would keep everything else waiting: what it did not touch is not made again. */
const made = new WeakMap<Handshake, MadeTags>()

/** What the controller polls for a handshake. Its terms hold what the line-up says too, so they are compared as well. */
export function tagsOf(handshake: Handshake, terms: HandshakeTerms): readonly PolledTag[] {
  const asText = JSON.stringify(terms)
  const before = made.get(handshake)
  if (before?.terms === asText) return before.tags
  const tags = makeTags(handshake, terms, asText)
  made.set(handshake, { terms: asText, tags })
  return tags
}

/** The tag of each point, by the terms that it was made with: of thousands a change touches one. */
const madeOfPoint = new WeakMap<Point, { readonly terms: string; readonly tag: PolledTag | undefined }>()

function makeTags({ points }: Handshake, terms: HandshakeTerms, asText: string): readonly PolledTag[] {
  return points.flatMap((point): readonly PolledTag[] => {
    const before = madeOfPoint.get(point)
    const tag = before?.terms === asText ? before.tag : makeTag(point, terms)
    if (before?.terms !== asText) madeOfPoint.set(point, { terms: asText, tag })
    return tag ? [tag] : []
  })
}

function makeTag(point: Point, terms: HandshakeTerms): PolledTag | undefined {
  const served = point.served ? parseReference(point.served.register) : undefined
  const place = served?.ok ? served.value[0] : undefined
  if (!place) return undefined
  const plan = readPlanOf(terms, 'controller', point.source)
  if (!plan.ok || plan.value.way.protocol !== 'modbus-tcp') return undefined
  const { way, request, format, scale, offset } = plan.value
  const { address, port, unit } = way
  return {
    tag: point.id,
    address: formatIpv4(address),
    port,
    unit,
    request,
    format,
    scale,
    offset,
    servedAt: place.address,
  }
}
