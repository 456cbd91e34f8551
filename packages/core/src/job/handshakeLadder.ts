import type { Basis } from '../evidence'
import { kindFacts } from '../kind'
import { BASIS_KEEPS, ladderOf, laterFacts, type Ladder } from '../ladder'
import { notations } from '../modbus'
import { claspOf, type Clasp, type ClaspRow, type HandshakeTerms } from '../terms'
import { evidenceOf } from './evidenceOf'
import { deviceOf } from './deviceOf'
import { handshakeTermsOf, termContextOf } from './handshakeTerms'
import type { Handshake, Job, Point } from './model'
import { standingOfRow, termsInForce, type RowStanding } from './termStandings'

/** The facts that evidence of this handshake, or of one of its points, rests on, by name. */
export function basisOf(terms: HandshakeTerms, point: Point | undefined): Basis {
  const basis: Record<string, string> = { [BASIS_KEEPS]: laterFacts.join(' ') }
  for (const [id, ends] of Object.entries(terms)) {
    for (const [end, entry] of Object.entries(ends)) basis[`${id}.${end}`] = entry.text.trim()
  }
  for (const [end, entry] of Object.entries(terms['first-register'] ?? {}))
    basis[`notation.${end}`] = entry.notation ? notations[entry.notation] : ''
  return point ? { ...basis, ...basisOfPoint(point) } : basis
}

function basisOfPoint({ served, source, tag, unit, tolerance }: Point): Basis {
  return {
    ...(served && { served: `${served.type} ${served.order}` }),
    ...(source && {
      source: `${source.register} ${source.type} ${source.order} × ${source.scale}${source.offset ? ` + ${source.offset}` : ''}`,
    }),
    point: [tag, unit, served?.register ?? '-', JSON.stringify(tolerance)].join(' '),
  }
}

/** Where ladders come from: computed, or remembered by whoever asks often. */
export type LadderOf = (job: Job, handshake: Handshake) => Ladder

/** What is known of a handshake's terms already; computed here where nobody gives it. */
export interface KnownOfTerms {
  readonly terms: HandshakeTerms
  readonly clasp: Clasp
  readonly standing: (row: ClaspRow) => RowStanding
}

/** The ladder of a handshake, from its evidence, decisions, points and terms. */
export function handshakeLadderOf(job: Job, handshake: Handshake, known?: KnownOfTerms): Ladder {
  const terms = known?.terms ?? handshakeTermsOf(job, handshake)
  const clasp = known?.clasp ?? claspOf(termContextOf(job, handshake, terms))
  const standing = known?.standing ?? ((row: ClaspRow) => standingOfRow(job, handshake, row, terms))
  const device = deviceOf(job, handshake.deviceId)
  const basis = basisOf(terms, undefined)
  return ladderOf({
    evidence: evidenceOf(job, handshake),
    decisions: handshake.decisions,
    notApplying: device ? kindFacts(device.kind, job.kinds).notApplying : [],
    basis,
    points: handshake.points.flatMap((point) =>
      point.asked
        ? [
            {
              id: point.id,
              name: point.quantity || point.tag,
              // Asked for where something was seen of the point, which of thousands is mostly nothing.
              get basis() {
                return { ...basis, ...basisOfPoint(point) }
              },
            },
          ]
        : [],
    ),
    terms: {
      ...clasp,
      standing: termsInForce(clasp.rows, standing),
    },
  })
}
