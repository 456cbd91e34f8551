import type { ReachReport } from '../live'
import { newDecision, newEvidence, readingEvidence } from '../requests'
import type { Added, Recorded } from './answers'
import { post } from './endpoint'

/** Evidence: what the server saw itself it judges itself; the rest is a person's word. */
export const proofApi = {
  addEvidence: post<Recorded>()('/handshakes/:id/evidence', newEvidence),
  recordReading: post<Recorded & { readonly say: string }>()('/handshakes/:id/reading', readingEvidence),
  reach: post<ReachReport>()('/handshakes/:id/reach'),
  agreed: post<Added>()('/handshakes/:id/agreed'),
  decide: post<Added>()('/handshakes/:id/decisions', newDecision),
}
