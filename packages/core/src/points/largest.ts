import { handshakeTermsOf, type Handshake, type Job } from '../job'

/** The most registers that the device gives in one answer, by its terms; `undefined` where nobody says it. */
export function readLargest(job: Job, handshake: Handshake): number | undefined {
  const text = handshakeTermsOf(job, handshake)['largest-read']?.device?.text.trim() ?? ''
  const count = /^\d+$/.test(text) ? Number(text) : 0
  return count > 0 ? count : undefined
}
