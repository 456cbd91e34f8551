import type { AsLeftRecord } from '@calm/core/handOver'
import type { Job } from '@calm/core/job'
import type { Problem } from '../problem'
import { newForced, newJob, versionOnly } from '../requests'
import type { WorkbookReading } from '../workbook'
import type { Added, JobLog, JobSummary } from './answers'
import { del, DONE, get, LOOKED, post } from './endpoint'

/** Jobs, their rows, files in and out. Rows are changed by one list of changes, whatever their kind. */
export const jobsApi = {
  jobs: get<readonly JobSummary[]>()('/jobs'),
  beginJob: post<Job>()('/jobs', newJob),
  importJob: post<Job>()('/jobs/import'),
  job: get<Job>()('/jobs/:jobId'),
  removeJob: del<undefined>()('/jobs/:jobId'),
  restoreJob: post<undefined>()('/jobs/:jobId/restore', undefined, DONE),
  /** The body is a `ChangeList`; it is read by `readChangeList`. */
  change: post<undefined>()('/jobs/:jobId/changes', undefined, DONE),
  exportJob: get<Job>()('/jobs/:jobId/export'),
  addForced: post<Added>()('/jobs/:jobId/forced', newForced),
  releaseForced: post<undefined>()('/forced/:id/release', versionOnly, DONE),
  log: get<JobLog>()('/jobs/:jobId/log'),
  record: get<AsLeftRecord>()('/jobs/:jobId/record'),
  recordAsJson: get<AsLeftRecord>()('/jobs/:jobId/record.json'),
  recordAsCsv: get<string>()('/jobs/:jobId/record.csv'),
  devicesAsCsv: get<string>()('/jobs/:jobId/devices.csv'),
  devicesAsWorkbook: get<Uint8Array>()('/jobs/:jobId/devices.xlsx'),
  reservations: get<string>()('/jobs/:jobId/reservations/:format'),
  /** The body is the bytes of a workbook. */
  readWorkbook: post<WorkbookReading>()('/tables/read', undefined, LOOKED),
  stream: get<Problem>()('/jobs/:jobId/stream'),
}
