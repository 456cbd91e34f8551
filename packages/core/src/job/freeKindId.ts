import { isKnownKind } from '../kind'
import type { Job } from './model'

/**
 * An id for a new kind: small letters, digits and hyphens of a name, with a number where that is taken.
 * @example freeKindId(job, 'Meter, as set') // 'meter-as-set'
 */
export function freeKindId(job: Pick<Job, 'kinds'>, name: string): string {
  const stem =
    name
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-+|-+$/g, '')
      .slice(0, 34)
      .replace(/-$/, '') || 'own'
  for (let k = 1; ; k += 1) {
    const id = k === 1 ? stem : `${stem}-${k}`
    if (!isKnownKind(id, job.kinds)) return id
  }
}
