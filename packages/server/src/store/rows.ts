import type { EntitySchema, FindOptionsWhere, ObjectLiteral, QueryDeepPartialEntity } from 'typeorm'
import { notFound, Refused, refusedBecause } from './refusals'
import type { Tx } from './store'

export interface Versioned extends ObjectLiteral {
  id: string
  version: number
  removedAt?: number | null
}

/** A row by its id; a row that was removed is not found. */
export async function rowById<T extends Versioned>(tx: Tx, table: EntitySchema<T>, id: string): Promise<T> {
  const row = await tx.manager.findOne(table, { where: { id } as FindOptionsWhere<T> })
  if (!row || row.removedAt) throw notFound(table.options.name, id)
  return row
}

/** A row that was removed, to be brought back. */
export async function removedRow<T extends Versioned>(tx: Tx, table: EntitySchema<T>, id: string): Promise<T> {
  const row = await tx.manager.findOne(table, { where: { id } as FindOptionsWhere<T> })
  if (!row) throw notFound(table.options.name, id)
  if (row.removedAt) return row
  const name = table.options.name
  throw refusedBecause(`This ${name} was not removed.`, `a ${name} that was removed`, id, 'id')
}

/**
 * Changes a row that still has the version that was looked at; else answers 409 with the row as it is, so that the
 * page can show both.
 */
export async function changeRow<T extends Versioned>(
  tx: Tx,
  table: EntitySchema<T>,
  id: string,
  version: number,
  change: QueryDeepPartialEntity<T>,
): Promise<T> {
  const before = await rowById(tx, table, id)
  if (before.version !== version) {
    throw new Refused(
      409,
      [
        {
          what: 'Somebody else saved this meanwhile.',
          where: 'version',
          expected: String(before.version),
          found: String(version),
        },
      ],
      before,
    )
  }
  await tx.manager.update(
    table,
    { id } as FindOptionsWhere<T>,
    { ...change, version: version + 1 } as QueryDeepPartialEntity<T>,
  )
  return rowById(tx, table, id)
}

/** What changed, as `field: before -> after`, for the log. */
export function differences(before: ObjectLiteral, change: ObjectLiteral): string {
  const show = (value: unknown) => (value === null || value === '' || value === undefined ? 'blank' : String(value))
  return Object.entries(change)
    .filter(([field, value]) => before[field] !== value)
    .map(([field, value]) => `${field}: ${show(before[field])} -> ${show(value)}`)
    .join(', ')
}
