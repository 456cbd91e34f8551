import type { AsLeftRecord } from '@calm/core/handOver'
import type { Job } from '@calm/core/job'
import type { Problem } from '../problem'
import type { newForced, newJob, versionOnly } from '../requests'
import type { WorkbookReading } from '../workbook'
import type { Added, FromFile, JobLog, JobSummary } from './answers'
import { del, DONE, get, LOOKED, post, type Let } from './endpoint'

/** Jobs, their rows, files in and out. Rows are changed by one list of changes, whatever their kind. */
export const jobsApi = {
  jobs: get<readonly JobSummary[]>()('/jobs'),
  beginJob: post<Job, Let<typeof newJob>>()('/jobs'),
  importJob: post<Job>()('/jobs/import'),
  job: get<Job>()('/jobs/:jobId'),
  /** What came with the file of the job; `null` where it came with none. */
  fromFile: get<FromFile | null>()('/jobs/:jobId/from-file'),
  takeOver: post<FromFile | null>()('/jobs/:jobId/from-file/take-over'),
  removeJob: del<undefined>()('/jobs/:jobId'),
  restoreJob: post<undefined>()('/jobs/:jobId/restore', DONE),
  /** The body is a `ChangeList`; it is read by `readChangeList`. */
  change: post<undefined>()('/jobs/:jobId/changes', DONE),
  exportJob: get<Job>()('/jobs/:jobId/export'),
  addForced: post<Added, Let<typeof newForced>>()('/jobs/:jobId/forced'),
  releaseForced: post<undefined, Let<typeof versionOnly>>()('/forced/:id/release', DONE),
  log: get<JobLog>()('/jobs/:jobId/log'),
  record: get<AsLeftRecord>()('/jobs/:jobId/record'),
  recordAsJson: get<AsLeftRecord>()('/jobs/:jobId/record.json'),
  recordAsCsv: get<string>()('/jobs/:jobId/record.csv'),
  devicesAsCsv: get<string>()('/jobs/:jobId/devices.csv'),
  devicesAsWorkbook: get<Uint8Array>()('/jobs/:jobId/devices.xlsx'),
  /** Points and requests of a handshake, a sheet each. */
  pointsAsWorkbook: get<Uint8Array>()('/handshakes/:id/points.xlsx'),
  reservations: get<string>()('/jobs/:jobId/reservations/:format'),
  /** The body is the bytes of a workbook. */
  readWorkbook: post<WorkbookReading>()('/tables/read', LOOKED),
  stream: get<Problem>()('/jobs/:jobId/stream'),
}
