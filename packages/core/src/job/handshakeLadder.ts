import { kindFacts } from '../kind'
import { BASIS_KEEPS, ladderOf, laterFacts, type Basis, type Ladder } from '../ladder'
import { notations } from '../modbus'
import { claspOf, type HandshakeTerms } from '../terms'
import { handshakeTermsOf, deviceOf, termContextOf } from './handshakeTerms'
import type { Handshake, Job, Point } from './model'

/** The facts that evidence of this handshake rests on, by name. */
export function basisOf(terms: HandshakeTerms, point: Point | undefined): Basis {
  const basis: Record<string, string> = { [BASIS_KEEPS]: laterFacts.join(' ') }
  for (const [id, ends] of Object.entries(terms)) {
    for (const [end, entry] of Object.entries(ends)) basis[`${id}.${end}`] = entry.text.trim()
  }
  for (const [end, entry] of Object.entries(terms['first-register'] ?? {}))
    basis[`notation.${end}`] = entry.notation ? notations[entry.notation] : ''
  if (point?.served) basis.served = `${point.served.type} ${point.served.order}`
  if (point)
    basis.point = [point.tag, point.unit, point.served?.register ?? '-', JSON.stringify(point.tolerance)].join(' ')
  return basis
}

/** Where ladders come from: computed, or remembered by whoever asks often. */
export type LadderOf = (job: Job, handshake: Handshake) => Ladder

/** The ladder of a handshake, from its evidence, decisions and terms. */
export function handshakeLadderOf(job: Job, handshake: Handshake): Ladder {
  const clasp = claspOf(termContextOf(job, handshake))
  const device = deviceOf(job, handshake.deviceId)
  return ladderOf({
    evidence: handshake.evidence,
    decisions: handshake.decisions,
    notApplying: device ? kindFacts(device.kind, job.kinds).notApplying : [],
    basis: basisOf(handshakeTermsOf(job, handshake), handshake.points[0]),
    terms: clasp,
  })
}
