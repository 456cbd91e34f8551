import { randomUUID } from 'node:crypto'
import { sayEvidence, sayEvidenceInFull, type Evidence } from '@calm/core/evidence'
import { basisOf, deviceOf, handshakeTermsOf, reachedAt, type Handshake, type Job, type Point } from '@calm/core/job'
import { rungFacts, type Decision, type Rung } from '@calm/core/ladder'
import type { Instant } from '@calm/core/units'
import { decisions, evidence } from '../db'
import type { Tx } from './store'
import type { Witness } from './witness'

/** What was seen; who and when fill themselves in. What was read live needs that it was asked on the plan as it is. */
export type EvidenceContent = Pick<Evidence, 'rung' | 'verdict' | 'facts'> &
  ({ readonly how: Exclude<Evidence['how'], 'read-live'> } | { readonly how: 'read-live'; readonly witness: Witness })

/** Evidence with what it is about and what it rests on. */
type Placed = EvidenceContent & Pick<Evidence, 'subject' | 'basis'> & { readonly about: string }

async function add(tx: Tx, jobId: string, { about, ...content }: Placed): Promise<string> {
  const job = await tx.job(jobId)
  // What is kept is what lies in the database: fields that are not there are left out in both.
  const facts = JSON.parse(JSON.stringify(content.facts)) as Evidence['facts']
  const { subject, basis, rung, verdict, how } = content
  const seen: Evidence = {
    id: randomUUID(),
    subject,
    basis,
    rung,
    verdict,
    how,
    facts,
    who: tx.who,
    at: tx.now as Instant,
    mode: job.mode,
  }
  const { subject: _subject, basis: _basis, facts: _facts, ...rest } = seen
  await tx.manager.insert(evidence, {
    ...rest,
    jobId,
    subjectKind: subject.kind,
    subjectId: subject.id,
    facts: JSON.stringify(facts),
    basis: JSON.stringify(basis),
  })
  tx.keep({ ...job, evidence: [...job.evidence, seen] })
  const word = verdict === 'proven' ? 'proven' : 'at odds'
  await tx.log(jobId, `${about}, ${rungFacts(rung).name}: ${word}. ${sayEvidence(facts)}`, sayEvidenceInFull(facts))
  return seen.id
}

/**
 * Adds what was seen at a handshake. It is about what its rung is about: the device, for whoever asks it; the handshake;
 * or the point that is named. What it rests on is taken from the job as it is now.
 */
export async function addEvidence(
  tx: Tx,
  jobId: string,
  handshake: Handshake,
  content: EvidenceContent,
  point?: Point,
): Promise<string> {
  const job = await tx.job(jobId)
  const basis = basisOf(handshakeTermsOf(job, handshake), point)
  const { about } = rungFacts(content.rung)
  const subject = point
    ? ({ kind: 'point', id: point.id } as const)
    : about === 'device'
      ? ({ kind: 'device', id: handshake.deviceId } as const)
      : ({ kind: 'handshake', id: handshake.id } as const)
  const named = point && handshake.points.length > 1 ? `${handshake.name}, ${point.quantity}` : handshake.name
  return add(tx, jobId, { ...content, subject, basis, about: named })
}

/** Adds what was seen of a device, for every handshake that has it at its device end. */
export async function addDeviceEvidence(
  tx: Tx,
  jobId: string,
  deviceId: string,
  content: EvidenceContent,
): Promise<string> {
  const job = await tx.job(jobId)
  const basis = basisOfDevice(job, deviceId)
  const about = deviceOf(job, deviceId)?.tag ?? 'Device'
  return add(tx, jobId, { ...content, subject: { kind: 'device', id: deviceId }, basis, about })
}

/** What evidence of a device alone rests on: where it is asked. The same facts, by the same names, as in a handshake. */
function basisOfDevice(job: Job, deviceId: string): Evidence['basis'] {
  const device = deviceOf(job, deviceId)
  const port = reachedAt(job, device)
  return {
    ...(port?.address && { 'address.device': port.address }),
    ...(port && { 'port.device': String(port.tcpPort) }),
    ...(device?.unitId != null && { 'unit-id.device': String(device.unitId) }),
  }
}

/** A person's decision about a rung of a handshake. */
export async function addDecision(
  tx: Tx,
  jobId: string,
  handshake: Handshake,
  content: { readonly rung: Rung; readonly state: Decision['state']; readonly reason: string },
): Promise<string> {
  const job = await tx.job(jobId)
  const decision = { id: randomUUID(), ...content, who: tx.who, at: tx.now as Instant }
  await tx.manager.insert(decisions, { ...decision, handshakeId: handshake.id })
  tx.keep({
    ...job,
    handshakes: job.handshakes.map((each) =>
      each.id === handshake.id ? { ...each, decisions: [...each.decisions, decision] } : each,
    ),
  })
  const { rung, state, reason } = content
  const said = state === 'none' ? 'decision taken back' : state
  await tx.log(jobId, `${handshake.name}, ${rungFacts(rung).name}: ${said}. ${reason}`)
  return decision.id
}
