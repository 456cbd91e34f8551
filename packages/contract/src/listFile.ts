import type Joi from 'joi'
import { duplicateKeys } from './duplicateKeys'
import { textProblems } from './plain'
import { foundText, problemsOf, type Problem } from './problem'

/** A file that is one list with a head; at most 1 MB. */
const LIMIT = 1024 * 1024

type ListFileReading<T> =
  { readonly ok: true; readonly content: T } | { readonly ok: false; readonly problems: readonly Problem[] }

/** One problem with a file as a whole. */
export const fileRefused = (
  what: string,
  expected: string,
  found: string,
  where = '',
): { readonly ok: false; readonly problems: readonly Problem[] } => ({
  ok: false,
  problems: [{ what, where, expected, found }],
})

/** Reads a file as JSON and by its schema. All problems are told with their path; nothing is taken from a file that has one. */
export function readListFile<T>(text: string, schema: Joi.ObjectSchema<T>, expected: string): ListFileReading<T> {
  if (text.length > LIMIT) return fileRefused('The file is too large.', 'at most 1 MB', `${text.length} characters`)
  let content: unknown
  try {
    content = JSON.parse(text)
  } catch (reason) {
    const what = `The file is not JSON: ${reason instanceof Error ? reason.message : String(reason)}`
    return fileRefused(what, expected, foundText(text.slice(0, 40)))
  }
  const foreign = [...textProblems(content), ...duplicateKeys(text)]
  if (foreign.length > 0) return { ok: false, problems: foreign }
  const { error, value } = schema.validate(content, { abortEarly: false, convert: false })
  if (error) return { ok: false, problems: problemsOf(error).slice(0, 200) }
  return { ok: true, content: value as T }
}
