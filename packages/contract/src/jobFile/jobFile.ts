import { newestField, type Job } from '@calm/core/job'
import { blankWalk, type WalkRecord } from '@calm/core/procedure'

/** Written into every job file. */
export const JOB_FORMAT = 'calm-handshake-job'
/** The version in which anything but the fields of rows was last written another way. */
const SHAPE = 10
/** The version that this program writes, and the newest it reads. Version 1 had no lines, nodes, kinds and requests, version 2 no first contact, version 3 evidence in sentences, version 9 no log. */
export const JOB_FORMAT_VERSION = Math.max(SHAPE, newestField)

/** A job as a file. Ids are kept, so that links inside the file hold; on import the rows get new ones. */
export interface JobFile {
  readonly format: typeof JOB_FORMAT
  readonly version: number
  readonly exportedAt: string
  readonly job: Job
  readonly firstContact: WalkRecord
  /** The log of the job, each entry sealed with the one before; left out where it is too long. */
  readonly log?: readonly SealedEntry[]
  /** What was seen and let stand, sealed with the last entry of the log. */
  readonly seal?: string
}

/** One entry of the log as it is sealed. */
export interface SealedEntry {
  readonly jobId: string
  readonly at: number
  readonly who: string
  readonly what: string
  readonly detail: string
  readonly previousHash: string
  readonly hash: string
}

/** What a file needs to be taken over elsewhere. */
export interface Sealed {
  readonly log: readonly SealedEntry[]
  readonly seal: string
}

export function jobFileOf(
  job: Job,
  exportedAt: string,
  firstContact: WalkRecord = blankWalk,
  sealed?: Sealed,
): JobFile {
  return { format: JOB_FORMAT, version: JOB_FORMAT_VERSION, exportedAt, job, firstContact, ...sealed }
}
