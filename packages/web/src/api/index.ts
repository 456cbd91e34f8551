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
  useSetFaults,
  type JobChange,
  type JobLog,
  type JobSummary,
} from './queries'
export { StreamProvider, useLiveReadings, useStream, type Readings } from './stream'
export * from './walk'
