import type { Job } from '@calm/core/job'
import { blankWalk, type WalkRecord } from '@calm/core/procedure'
import { duplicateKeys } from '../duplicateKeys'
import { textProblems } from '../plain'
import { foundText, problemsOf, type Problem } from '../problem'
import { inconsistencies } from './consistency'
import { JOB_FILE_LIMIT } from '../limits'
import { JOB_FORMAT, JOB_FORMAT_VERSION, type JobFile, type Sealed } from './jobFile'
import { fromOlder } from './olderFiles'
import { jobFileSchema } from './schema'

/** More than these help nobody. */
const MOST_PROBLEMS = 200

export type JobFileReading =
  | {
      readonly ok: true
      readonly job: Job
      readonly firstContact: WalkRecord
      readonly exportedAt: string
      readonly sealed: Sealed | undefined
    }
  | { readonly ok: false; readonly problems: readonly Problem[] }

/** Reads a job file as text. All problems are listed with their path; nothing is taken from a file that has one. */
export function readJobFile(text: string): JobFileReading {
  const refuse = (...problems: Problem[]): JobFileReading => ({ ok: false, problems })
  if (text.length > JOB_FILE_LIMIT) {
    const size = `${(text.length / 1024 / 1024).toFixed(1)} MB`
    return refuse({ what: `The file is too large: ${size}.`, where: '', expected: 'at most 20 MB', found: size })
  }
  let content: unknown
  try {
    content = JSON.parse(text)
  } catch (reason) {
    const what = `The file is not JSON: ${reason instanceof Error ? reason.message : String(reason)}`
    return refuse({
      what,
      where: '',
      expected: `a job file written by this program (${JOB_FORMAT})`,
      found: foundText(text.slice(0, 40)),
    })
  }
  const head = (content ?? {}) as Partial<Record<keyof JobFile, unknown>>
  if (head.format !== JOB_FORMAT) {
    return refuse({
      what: 'This is not a job file.',
      where: 'format',
      expected: JOB_FORMAT,
      found: foundText(head.format),
    })
  }
  if (typeof head.version === 'number' && head.version > JOB_FORMAT_VERSION) {
    return refuse({
      what: `The file is of version ${head.version}, written by a newer program. This one reads up to ${JOB_FORMAT_VERSION}.`,
      where: 'version',
      expected: `at most ${JOB_FORMAT_VERSION}`,
      found: String(head.version),
    })
  }
  const foreign = [...textProblems(content), ...duplicateKeys(text)]
  if (foreign.length > 0) return refuse(...foreign)
  const { error, value } = jobFileSchema.validate(content, { abortEarly: false, convert: false })
  if (error) return refuse(...problemsOf(error).slice(0, MOST_PROBLEMS))
  const {
    job: read,
    version,
    firstContact = blankWalk,
    exportedAt,
    log,
    seal,
  } = value as Omit<JobFile, 'version'> & { readonly version: number }
  const job = version < 4 ? fromOlder(read) : read
  const problems = inconsistencies(job, firstContact).slice(0, MOST_PROBLEMS)
  if (problems.length > 0) return { ok: false, problems }
  return { ok: true, job, firstContact, exportedAt, sealed: log && seal !== undefined ? { log, seal } : undefined }
}
