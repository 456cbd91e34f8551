import { parentPort, workerData } from 'node:worker_threads'
import { Refused } from '../store'
import type { Told } from './readApart'
import { readWorkbook } from './readWorkbook'

/** The thread that reads one workbook and ends. */
const tell = (told: Told) => parentPort?.postMessage(told)

readWorkbook(workerData as Uint8Array).then(
  (reading) => tell({ reading }),
  (reason: unknown) =>
    tell({
      problems:
        reason instanceof Refused
          ? reason.problems
          : [{ what: 'The workbook cannot be read.', where: '', expected: 'an XLSX file', found: String(reason) }],
    }),
)
