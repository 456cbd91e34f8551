import type { Change } from '@calm/core/lineUp'
import Joi from 'joi'
import { id, version } from './fields'
import { tableFields } from './lineUpRows'
import { foundText, problemsOf, type Problem } from './problem'
import { lineFields, required } from './rows'

/** Changes that are carried out together, or not at all. */
export interface ChangeList {
  readonly changes: readonly Change[]
}

/** A table of 5 000 devices is two rows for each, and one more for what hangs behind another. */
export const AT_ONCE = 15_000
/** More than these help nobody. */
const MOST_PROBLEMS = 200

type Table = keyof typeof tableFields
type Operation = Change['op']
const tables = Object.keys(tableFields) as Table[]
const operations: readonly Operation[] = ['set', 'add', 'remove', 'restore']

function schemaFor(op: Operation, table: Table): Joi.ObjectSchema | undefined {
  const head = { op: Joi.any(), table: Joi.any(), id: id.required() }
  const fields = tableFields[table] as { readonly set: Joi.SchemaMap; readonly add: Joi.SchemaMap | undefined }
  switch (op) {
    case 'set':
      return Joi.object({ ...head, version: version.required(), fields: Joi.object(fields.set).min(1).required() })
    case 'add':
      return fields.add && Joi.object({ ...head, fields: Joi.object(fields.add).required() })
    case 'remove':
      return table === 'job' ? undefined : Joi.object({ ...head, version: version.required() })
    case 'restore':
      return table === 'job' ? undefined : Joi.object(head)
  }
}

const schemas = new Map<string, Joi.ObjectSchema | undefined>(
  operations.flatMap((op) => tables.map((table) => [`${op} ${table}`, schemaFor(op, table)] as const)),
)

export type ChangeListReading =
  | { readonly ok: true; readonly changes: readonly Change[] }
  | { readonly ok: false; readonly problems: readonly Problem[] }

/** Reads a list of changes. Each is held against the schema of its table; all problems are told with their path. */
export function readChangeList(body: unknown): ChangeListReading {
  const list: unknown = (body as Partial<ChangeList> | null | undefined)?.changes
  if (!Array.isArray(list) || list.length === 0 || list.length > AT_ONCE) {
    const found = Array.isArray(list) ? `${list.length} changes` : foundText(list)
    return {
      ok: false,
      problems: [{ what: 'This is no list of changes.', where: 'changes', expected: `1 to ${AT_ONCE} changes`, found }],
    }
  }
  const problems: Problem[] = []
  const changes: Change[] = []
  for (const [k, each] of list.entries()) {
    const schema = schemas.get(`${each?.op} ${each?.table}`)
    if (!schema) {
      const what = 'There is no such change.'
      const expected = `${operations.join(', ')} of ${tables.join(', ')}`
      problems.push({ what, where: `changes[${k}]`, expected, found: foundText(`${each?.op} ${each?.table}`) })
    } else {
      const { error, value } = schema.validate(each, { abortEarly: false, convert: false })
      if (error)
        problems.push(...problemsOf(error).map((problem) => ({ ...problem, where: `changes[${k}].${problem.where}` })))
      else changes.push(value as Change)
    }
    if (problems.length >= MOST_PROBLEMS) break
  }
  return problems.length > 0 ? { ok: false, problems } : { ok: true, changes }
}

/** A line or bus, as its form sends it. */
export const newLine = Joi.object(required(lineFields))
