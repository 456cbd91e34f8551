import type { Evidence } from '../evidence'
import type { Handshake, Job } from './model'

/** Evidence by the id of what it is about, made once for each list. */
const indexes = new WeakMap<readonly Evidence[], ReadonlyMap<string, readonly Evidence[]>>()

function bySubject(evidence: readonly Evidence[]): ReadonlyMap<string, readonly Evidence[]> {
  const known = indexes.get(evidence)
  if (known) return known
  const index = new Map<string, Evidence[]>()
  for (const each of evidence) {
    const same = index.get(each.subject.id)
    if (same) same.push(each)
    else index.set(each.subject.id, [each])
  }
  indexes.set(evidence, index)
  return index
}

/** Everything that was seen of one thing, in the order in which it was recorded. */
export const evidenceAbout = (job: Job, id: string): readonly Evidence[] => bySubject(job.evidence).get(id) ?? []

/** Everything that counts for a handshake: seen of itself, of its device, of its points. */
export function evidenceOf(job: Job, handshake: Handshake): readonly Evidence[] {
  const index = bySubject(job.evidence)
  if (index.size === 0) return []
  const all: Evidence[] = [...(index.get(handshake.id) ?? []), ...(index.get(handshake.deviceId) ?? [])]
  // Of thousands of points few were seen yet: nothing is made for the others.
  for (const { id } of handshake.points) {
    const own = index.get(id)
    if (own) all.push(...own)
  }
  return all
}

/** What was seen of a handshake alone and of its points: what goes out of sight with it. */
export const evidenceGoingWith = (job: Job, handshake: Handshake): readonly Evidence[] =>
  evidenceOf(job, handshake).filter((each) => each.subject.kind !== 'device')
