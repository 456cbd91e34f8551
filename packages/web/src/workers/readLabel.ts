import { wrap } from 'comlink'
import { ProblemError } from '../api'
import type { LabelApi, LabelPicture } from './label.worker'

/** Larger files are no picture of a label. */
const MOST_BYTES = 30 * 1024 * 1024

const refused = (what: string, found: string, expected: string) =>
  new ProblemError(0, [{ where: '', what, found, expected }])

/**
 * Reads the codes of a picture of a label, in a worker of its own that ends with it.
 *
 * @throws ProblemError with what was found and what is expected, where the file is no picture
 */
export async function readLabel(file: File, mostSigns: number): Promise<LabelPicture> {
  if (file.size > MOST_BYTES)
    throw refused(`${file.name} is too large.`, `${Math.round(file.size / 1e6)} MB`, 'a picture of at most 30 MB')
  const worker = new Worker(new URL('./label.worker.ts', import.meta.url), { type: 'module' })
  try {
    return await wrap<LabelApi>(worker).read(file, mostSigns)
  } catch {
    throw refused(`${file.name} cannot be read as a picture.`, file.type || 'a file of no known type', 'a JPEG or PNG')
  } finally {
    worker.terminate()
  }
}
