export { JOB_FILE_LIMIT } from '../limits'
export { jobFileOf, type JobFile, type Sealed, type SealedEntry } from './jobFile'
export { readJobFile } from './readJobFile'
export { evidenceOfOlder, type OlderEvidence } from './olderFiles'
