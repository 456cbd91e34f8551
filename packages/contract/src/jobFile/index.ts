export { JOB_FILE_LIMIT, JOB_FORMAT, JOB_FORMAT_VERSION, jobFileOf, type JobFile } from './jobFile'
export { readJobFile, type JobFileReading } from './readJobFile'
