import { newestField, type Job } from '@calm/core/job'
import { blankWalk, type WalkRecord } from '@calm/core/procedure'

/** Written into every job file. */
export const JOB_FORMAT = 'calm-handshake-job'
/** The version in which anything but the fields of rows was last written another way. */
const SHAPE = 4
/** The version that this program writes, and the newest it reads. Version 1 had no lines, nodes, kinds and requests, version 2 no first contact, version 3 evidence in sentences. */
export const JOB_FORMAT_VERSION = Math.max(SHAPE, newestField)

/** A job as a file. Ids are kept, so that links inside the file hold; on import the rows get new ones. */
export interface JobFile {
  readonly format: typeof JOB_FORMAT
  readonly version: number
  readonly exportedAt: string
  readonly job: Job
  readonly firstContact: WalkRecord
}

export function jobFileOf(job: Job, exportedAt: string, firstContact: WalkRecord = blankWalk): JobFile {
  return { format: JOB_FORMAT, version: JOB_FORMAT_VERSION, exportedAt, job, firstContact }
}
