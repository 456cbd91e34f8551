import { shippedRuns, type RunFacts } from '@calm/core/procedure'
import Joi from 'joi'
import { foundText, problemsOf, type Problem } from '../problem'
import { runFactsSchema } from '../runRow'

/** Written into every file of runs. */
export const RUN_FORMAT = 'calm-handshake-runs'
export const RUN_FORMAT_VERSION = 1
const LIMIT = 1024 * 1024

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
  const refuse = (what: string, expected: string, found: string, where = ''): RunFileReading => ({
    ok: false,
    problems: [{ what, where, expected, found }],
  })
  if (text.length > LIMIT) return refuse('The file is too large.', 'at most 1 MB', `${text.length} characters`)
  let content: unknown
  try {
    content = JSON.parse(text)
  } catch (reason) {
    const what = `The file is not JSON: ${reason instanceof Error ? reason.message : String(reason)}`
    return refuse(what, `a file of runs (${RUN_FORMAT})`, foundText(text.slice(0, 40)))
  }
  const { error, value } = schema.validate(content, { abortEarly: false, convert: false })
  if (error) return { ok: false, problems: problemsOf(error).slice(0, 200) }
  const taken = value.runs.find((run) => shippedRuns.some((shipped) => shipped.id === run.id))
  if (taken) return refuse(`The id "${taken.id}" belongs to a run that ships.`, 'an id of its own', taken.id, 'runs')
  return { ok: true, runs: value.runs }
}
