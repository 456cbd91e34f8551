import { factsOf, howWords, sayEvidence, sayEvidenceInFull, sources, type Evidence } from '../evidence'
import { basisOf, evidenceAbout, handshakeTermsOf, type Handshake, type Job, type Point } from '../job'
import { standingOfPoint, type Ladder, type PointOnRung } from '../ladder'
import { formatNumber, toleranceText } from '../values'

const stateWords: Readonly<Record<PointOnRung['state'], string>> = {
  proven: 'proven',
  'at-odds': 'at odds',
  changed: 'to be seen again',
  open: 'not seen yet',
}

/** Who saw it, when and how; all open where nobody did. */
export const seenBy = (evidence: Evidence | undefined) => ({
  who: evidence?.who ?? null,
  at: evidence ? new Date(evidence.at).toISOString() : null,
  how: evidence ? howWords[evidence.how] : null,
  mode: evidence?.mode ?? null,
})

/** Every point of a handshake as it stands in the record: proven or not, asked for or not. */
export function recordedPoints(job: Job, handshake: Handshake, ladder: Ladder) {
  const asked = new Map(ladder.rungs.flatMap(({ points }) => points.map((each) => [each.id, each])))
  return handshake.points.map((point) => {
    const standing = asked.get(point.id) ?? standingUnasked(job, handshake, point)
    const { state, because, evidence } = standing
    const shown = (value: number | null) =>
      value === null ? 'no value' : `${formatNumber(value, point.decimals)} ${point.unit}`.trim()
    const facts = evidence?.facts ?? []
    const [compared] = factsOf(facts, 'reference')
    return {
      point: point.quantity || point.tag,
      tag: point.tag,
      register: point.source?.register ?? null,
      hasToBeProven: point.asked,
      state: point.asked || evidence ? stateWords[state] : 'need not be proven',
      because,
      values: factsOf(facts, 'reading').map(({ place, value, source, at }) => ({
        place,
        value,
        shown: shown(value),
        how: sources[source],
        at: at === null ? null : new Date(at).toISOString(),
      })),
      // What was compared with; where nothing was, what there is to compare with.
      reference: referenceText(compared ?? point.reference, shown),
      tolerance: toleranceText(compared?.tolerance ?? point.tolerance, point.unit),
      ...seenBy(evidence),
      said: evidence ? sayEvidence(facts) : null,
      detail: evidence ? sayEvidenceInFull(facts) : [],
      facts,
    }
  })
}

const referenceText = (
  reference: { readonly value: number; readonly origin: string } | null,
  shown: (value: number) => string,
) => (reference ? { value: reference.value, shown: shown(reference.value), origin: reference.origin } : null)

/** A point that need not be proven may have been read all the same: what was seen of it counts as what it is. */
function standingUnasked(job: Job, handshake: Handshake, point: Point) {
  const seen = evidenceAbout(job, point.id)
  // Of thousands of points few were seen: what they rest on is not worked out for the others.
  return standingOfPoint(seen, seen.length > 0 ? basisOf(handshakeTermsOf(job, handshake), point) : {})
}

export type RecordedPoint = ReturnType<typeof recordedPoints>[number]
