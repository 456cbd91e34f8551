export { JOB_FILE_LIMIT } from '../limits'
export { JOB_FORMAT, JOB_FORMAT_VERSION, jobFileOf, type JobFile } from './jobFile'
export { readJobFile, type JobFileReading } from './readJobFile'
export { evidenceOfOlder, type OlderEvidence } from './olderFiles'
