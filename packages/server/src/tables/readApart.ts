import { Worker } from 'node:worker_threads'
import type { WorkbookReading } from '@calm/contract'
import type { Problem } from '@calm/contract'
import { Refused, refusedBecause } from '../store'
import { readWorkbook } from './readWorkbook'

/** Longer than any table takes; what takes longer is no table. */
const TIME_LIMIT_MS = 20_000
const MEMORY_LIMIT_MB = 512

/** What the thread says at its end. */
export type Told = { readonly reading: WorkbookReading } | { readonly problems: readonly Problem[] }

/**
 * Reads a workbook in a thread of its own, within bounds of time and memory, so that nobody else waits for it.
 * @param worker the file of the thread; left out where the program is not built: then it is read here
 */
export function readWorkbookApart(bytes: Uint8Array, worker: string | undefined): Promise<WorkbookReading> {
  if (worker === undefined) return readWorkbook(bytes)
  return new Promise((done, fail) => {
    const thread = new Worker(worker, {
      workerData: bytes,
      resourceLimits: { maxOldGenerationSizeMb: MEMORY_LIMIT_MB },
    })
    const tooMuch = () =>
      refusedBecause(
        'The workbook takes too long or too much memory to read.',
        'a table of at most 10 000 rows',
        `${bytes.length} bytes`,
      )
    const timer = setTimeout(() => {
      fail(tooMuch())
      void thread.terminate()
    }, TIME_LIMIT_MS)
    thread.once('message', (told: Told) => {
      if ('reading' in told) done(told.reading)
      else fail(new Refused(422, told.problems))
    })
    thread.once('error', () => fail(tooMuch()))
    thread.once('exit', () => {
      clearTimeout(timer)
      fail(tooMuch())
    })
  })
}
