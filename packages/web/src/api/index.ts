export { newId, ProblemError, request } from './client'
export {
  refreshJob,
  useBench,
  useJob,
  useJobChange,
  useJobLog,
  useJobs,
  useLaptop,
  useMe,
  useRecord,
  useSetFaults,
  type JobChange,
  type JobLog,
  type JobSummary,
} from './queries'
export { serverNow } from './serverClock'
export { StreamProvider, useLiveReadings, useStream, type Readings } from './stream'
export * from './walk'
