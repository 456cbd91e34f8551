import { shippedRuns, type RunFacts } from '@calm/core/procedure'
import Joi from 'joi'
import { fileRefused, readListFile } from '../listFile'
import type { Problem } from '../problem'
import { runFactsSchema } from '../runRow'

/** Written into every file of runs. */
export const RUN_FORMAT = 'calm-handshake-runs'
const RUN_FORMAT_VERSION = 1

/** Runs as a file. See docs/run-file.md. */
export interface RunFile {
  readonly format: typeof RUN_FORMAT
  readonly version: typeof RUN_FORMAT_VERSION
  readonly runs: readonly RunFacts[]
}

export const runFileOf = (runs: readonly RunFacts[]): RunFile => ({
  format: RUN_FORMAT,
  version: RUN_FORMAT_VERSION,
  runs,
})

const schema = Joi.object<RunFile>({
  format: Joi.valid(RUN_FORMAT).required(),
  version: Joi.valid(RUN_FORMAT_VERSION).required(),
  runs: Joi.array().items(runFactsSchema).min(1).max(100).unique('id').required(),
})

export type RunFileReading =
  | { readonly ok: true; readonly runs: readonly RunFacts[] }
  | { readonly ok: false; readonly problems: readonly Problem[] }

/** Reads a file of runs. All problems are told with their path; nothing is taken from a file that has one. */
export function readRunFile(text: string): RunFileReading {
  const reading = readListFile(text, schema, `a file of runs (${RUN_FORMAT})`)
  if (!reading.ok) return reading
  const { runs } = reading.content
  const taken = runs.find((run) => shippedRuns.some((shipped) => shipped.id === run.id))
  if (taken)
    return fileRefused(`The id "${taken.id}" belongs to a run that ships.`, 'an id of its own', taken.id, 'runs')
  return { ok: true, runs }
}
