import { shippedKinds, type DeviceKindFacts } from '@calm/core/kind'
import Joi from 'joi'
import { kindFactsSchema } from '../kindRow'
import { fileRefused, readListFile } from '../listFile'
import type { Problem } from '../problem'

/** Written into every file of kinds. */
export const KIND_FORMAT = 'calm-handshake-kinds'
export const KIND_FORMAT_VERSION = 1

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
  const reading = readListFile(text, schema, `a file of kinds (${KIND_FORMAT})`)
  if (!reading.ok) return reading
  const { kinds } = reading.content
  const taken = kinds.findIndex((kind) => shippedKinds.some((shipped) => shipped.id === kind.id))
  return taken >= 0
    ? fileRefused('A kind that ships has this id.', 'an id of its own', kinds[taken]?.id ?? '', `kinds[${taken}].id`)
    : { ok: true, kinds }
}
