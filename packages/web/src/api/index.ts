export { call, newId, ProblemError } from './client'
export {
  useAct,
  useBench,
  useJob,
  useFromFile,
  useJobLog,
  useJobs,
  useLaptop,
  useMe,
  useRecord,
  useSendChanges,
  useSetFaults,
} from './queries'
export { serverNow } from './serverClock'
export {
  StreamProvider,
  useLiveReadings,
  useStream,
  type Readings,
  type ReadingsByPoint,
  type TimedReading,
} from './stream'
export * from './walk'
