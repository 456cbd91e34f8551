/** A job file may have at most this many bytes. */
export const JOB_FILE_LIMIT = 20 * 1024 * 1024
