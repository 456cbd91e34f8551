import type { Change } from '@calm/core/changes'
import { ownerField, rowKinds, rowTables, type RowTable } from '@calm/core/job'
import Joi from 'joi'
import { id, version } from './fields'
import { foundText, problemsOf, type Problem } from './problem'
import { fieldsOrBlank, fieldsToAdd, fieldsToSet } from './rowSchemas'

/** Changes that are carried out together, or not at all. */
export interface ChangeList {
  readonly changes: readonly Change[]
}

/** A table of 5 000 devices is two rows for each, and one more for what hangs behind another. */
export const AT_ONCE = 15_000
/** More than these help nobody. */
const MOST_PROBLEMS = 200

type Operation = Change['op']
const operations: readonly Operation[] = ['set', 'add', 'remove', 'restore']

/** What is said once, when a row is added, and never changed: a term stays the term that it is. */
const FIXED: Readonly<Partial<Record<RowTable, readonly string[]>>> = {
  term: ['termId', 'end'],
  handshake: ['controllerId', 'deviceId'],
  acceptance: ['rule', 'subjectId', 'found'],
}

function schemaFor(op: Operation, table: RowTable): Joi.ObjectSchema | undefined {
  const head = { op: Joi.any(), table: Joi.any(), id: id.required() }
  switch (op) {
    case 'set': {
      const fields = Object.entries(fieldsToSet(table)).filter(([name]) => !FIXED[table]?.includes(name))
      return Joi.object({
        ...head,
        version: version.required(),
        fields: Joi.object(Object.fromEntries(fields)).min(1).required(),
      })
    }
    case 'add': {
      if (table === 'job') return undefined
      const owner = ownerField(rowKinds[table])
      const fields = { ...fieldsOrBlank(table), ...(owner && { [owner]: id.required() }) }
      return Joi.object({ ...head, fields: Joi.object(fields).required() })
    }
    case 'remove':
      return table === 'job' ? undefined : Joi.object({ ...head, version: version.required() })
    case 'restore':
      return table === 'job' ? undefined : Joi.object(head)
  }
}

const schemas = new Map<string, Joi.ObjectSchema | undefined>(
  operations.flatMap((op) => rowTables.map((table) => [`${op} ${table}`, schemaFor(op, table)] as const)),
)

type ChangeListReading =
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
    // What stands there may be anything, and need not be a text.
    const named = [each?.op, each?.table].map((part) => (typeof part === 'string' ? part : foundText(part))).join(' ')
    const schema = schemas.get(named)
    if (!schema) {
      const what = 'There is no such change.'
      const expected = `${operations.join(', ')} of ${rowTables.join(', ')}`
      problems.push({ what, where: `changes[${k}]`, expected, found: foundText(named) })
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

/** The fields of a new row of a table, as its form sends them. */
export const newRow = (table: Exclude<RowTable, 'job'>) => Joi.object(fieldsToAdd(table))
