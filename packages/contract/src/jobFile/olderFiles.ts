import { textFact, type Evidence } from '@calm/core/evidence'
import { withoutLoose, type Handshake, type Job } from '@calm/core/job'
import { rungFacts } from '@calm/core/ladder'

/** Evidence as files up to version 3 have it: the sentence that was shown, and lines of detail. */
export type OlderEvidence = Omit<Evidence, 'subject' | 'facts'> & {
  readonly value: string
  readonly detail: readonly string[]
}

type OlderHandshake = Handshake & { readonly evidence: readonly OlderEvidence[] }

/**
 * Evidence of older programs as evidence with a subject: its sentence stays as it was, as a text fact. A handshake had
 * one point then, and a reading was of that one; what was seen of the device now counts for whoever asks it.
 */
export function evidenceOfOlder(
  { value, detail, ...seen }: OlderEvidence,
  handshake: { readonly id: string; readonly deviceId: string; readonly pointId: string | undefined },
): Evidence {
  const { about } = rungFacts(seen.rung)
  const { pointId } = handshake
  const subject =
    about === 'point' && pointId !== undefined
      ? ({ kind: 'point', id: pointId } as const)
      : ({ kind: 'handshake', id: handshake.id } as const)
  return { ...seen, subject, facts: [value, ...detail].map(textFact) }
}

/** A job of a file up to version 3 as jobs are now. */
export function fromOlder(job: Job): Job {
  const evidence: Evidence[] = []
  const handshakes = (job.handshakes as readonly OlderHandshake[]).map(({ evidence: older, ...handshake }) => {
    const { id, deviceId, points } = handshake
    evidence.push(...older.map((each) => evidenceOfOlder(each, { id, deviceId, pointId: points[0]?.id })))
    // Their order was that of the list.
    return { ...handshake, points: points.map((point, position) => ({ ...point, position })) }
  })
  return withoutLoose({ ...job, handshakes, evidence })
}
