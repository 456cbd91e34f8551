import { kindFacts } from '../kind'
import type { TermId } from '../terms'
import { deviceOf } from './deviceOf'
import type { Handshake, Job, TermMirror } from './model'

/** Where the device of a handshake mirrors its settings: as was said here, else as its kind says. A blank one is none. */
export function mirrorsOf(job: Job, handshake: Handshake): readonly TermMirror[] {
  const kind = kindFacts(deviceOf(job, handshake.deviceId)?.kind ?? '', job.kinds)
  const texts = new Map(Object.entries(kind.mirrors ?? {}) as [TermId, string][])
  for (const { termId, text } of handshake.mirrors) texts.set(termId, text)
  return [...texts].flatMap(([termId, text]) => (text.trim() === '' ? [] : [{ termId, text }]))
}
