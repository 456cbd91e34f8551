import type { LookAround, ReachReport, SettingsSeen } from '../live'
import type { newDecision, newEvidence, readingEvidence } from '../requests'
import type { Added, Recorded } from './answers'
import { LOOKED, post, type Let } from './endpoint'

/** Evidence: what the server saw itself it judges itself; the rest is a person's word. */
export const proofApi = {
  addEvidence: post<Recorded, Let<typeof newEvidence>>()('/handshakes/:id/evidence'),
  recordReading: post<Recorded & { readonly say: string }, Let<typeof readingEvidence>>()('/handshakes/:id/reading'),
  reach: post<ReachReport>()('/handshakes/:id/reach'),
  lookAround: post<LookAround>()('/handshakes/:id/points/:pointId/look', LOOKED),
  readSettings: post<SettingsSeen>()('/handshakes/:id/settings', LOOKED),
  agreed: post<Added>()('/handshakes/:id/agreed'),
  decide: post<Added, Let<typeof newDecision>>()('/handshakes/:id/decisions'),
}
