import { randomUUID } from 'node:crypto'
import { basisOf, handshakeTermsOf, type Handshake, type Job, type StoredEvidence } from '@calm/core/job'
import { rungFacts, type Decision } from '@calm/core/ladder'
import { decisions, evidence } from '../db'
import type { Tx } from './store'

export type EvidenceContent = Pick<StoredEvidence, 'rung' | 'verdict' | 'how' | 'value' | 'detail'>

/** Adds evidence. Who and when fill themselves in; what it rests on is taken from the job as it is now. */
export async function addEvidence(tx: Tx, job: Job, handshake: Handshake, content: EvidenceContent): Promise<string> {
  const id = randomUUID()
  await tx.manager.insert(evidence, {
    id,
    handshakeId: handshake.id,
    rung: content.rung,
    verdict: content.verdict,
    who: tx.who,
    at: tx.now,
    how: content.how,
    value: content.value,
    basis: JSON.stringify(basisOf(handshakeTermsOf(job, handshake), handshake.points[0])),
    mode: job.mode,
    detail: JSON.stringify(content.detail),
  })
  const verdict = content.verdict === 'proven' ? 'proven' : 'at odds'
  await tx.log(
    job.id,
    `${handshake.name}, ${rungFacts(content.rung).name}: ${verdict}. ${content.value}`,
    content.detail,
  )
  return id
}

export async function addDecision(
  tx: Tx,
  job: Job,
  handshake: Handshake,
  content: Pick<Decision, 'rung' | 'state' | 'reason'>,
): Promise<string> {
  const id = randomUUID()
  await tx.manager.insert(decisions, { id, handshakeId: handshake.id, ...content, who: tx.who, at: tx.now })
  await tx.log(
    job.id,
    `${handshake.name}, ${rungFacts(content.rung).name}: ${content.state === 'none' ? 'decision taken back' : content.state}. ${content.reason}`,
  )
  return id
}
