import { shippedKinds, type DeviceKindFacts } from '@calm/core/kind'
import Joi from 'joi'
import { kindFactsSchema } from '../kindRow'
import { foundText, problemsOf, type Problem } from '../problem'

/** Written into every file of kinds. */
export const KIND_FORMAT = 'calm-handshake-kinds'
export const KIND_FORMAT_VERSION = 1
const LIMIT = 1024 * 1024

/** Kinds of devices as a file. See docs/kind-file.md. */
export interface KindFile {
  readonly format: typeof KIND_FORMAT
  readonly version: typeof KIND_FORMAT_VERSION
  readonly kinds: readonly DeviceKindFacts[]
}

export const kindFileOf = (kinds: readonly DeviceKindFacts[]): KindFile => ({
  format: KIND_FORMAT,
  version: KIND_FORMAT_VERSION,
  kinds,
})

const schema = Joi.object<KindFile>({
  format: Joi.valid(KIND_FORMAT).required(),
  version: Joi.valid(KIND_FORMAT_VERSION).required(),
  kinds: Joi.array().items(kindFactsSchema).min(1).max(200).unique('id').required(),
})

export type KindFileReading =
  | { readonly ok: true; readonly kinds: readonly DeviceKindFacts[] }
  | { readonly ok: false; readonly problems: readonly Problem[] }

/** Reads a file of kinds. All problems are told with their path; nothing is taken from a file that has one. */
export function readKindFile(text: string): KindFileReading {
  const refuse = (what: string, expected: string, found: string, where = ''): KindFileReading => ({
    ok: false,
    problems: [{ what, where, expected, found }],
  })
  if (text.length > LIMIT) return refuse('The file is too large.', 'at most 1 MB', `${text.length} characters`)
  let content: unknown
  try {
    content = JSON.parse(text)
  } catch (reason) {
    return refuse(
      `The file is not JSON: ${reason instanceof Error ? reason.message : String(reason)}`,
      `a file of kinds (${KIND_FORMAT})`,
      foundText(text.slice(0, 40)),
    )
  }
  const { error, value } = schema.validate(content, { abortEarly: false, convert: false })
  if (error) return { ok: false, problems: problemsOf(error).slice(0, 200) }
  const taken = value.kinds.findIndex((kind) => shippedKinds.some((shipped) => shipped.id === kind.id))
  return taken >= 0
    ? refuse('A kind that ships has this id.', 'an id of its own', value.kinds[taken]?.id ?? '', `kinds[${taken}].id`)
    : { ok: true, kinds: value.kinds }
}
