import { ownerField, rowKinds, rowTables, type AnyRow, type Field, type RowKind, type RowTable } from '@calm/core/job'
import {
  EntitySchema,
  type EntityManager,
  type EntitySchemaColumnOptions,
  type ObjectLiteral,
  type QueryDeepPartialEntity,
} from 'typeorm'

/** A row of the job as it lies in the database: shapes as JSON, out of sight once it was removed. */
export interface StoredRow extends ObjectLiteral {
  id: string
  version: number
  removedAt: number | null
}

/** How a field lies in the database. */
type Storage = 'text' | 'integer' | 'real' | 'boolean'

/** A shape lies there as JSON; the id of a kind is a plain text. */
const isJson = ({ type }: Field<unknown>): boolean => type.is === 'shape' && type.shape !== 'kind-id'

function storageOf({ type }: Field<unknown>): Storage {
  switch (type.is) {
    case 'whole':
      return 'integer'
    case 'number':
      return 'real'
    case 'yes-no':
      return 'boolean'
    default:
      return 'text'
  }
}

/** The columns of a row besides its own fields, by name: how they lie there, and whether they may be open. */
function columnsAround(kind: RowKind): readonly (readonly [name: string, storage: Storage, open: boolean])[] {
  const owner = ownerField(kind)
  return [
    ...(kind.owner === 'job' ? [['jobId', 'text', false] as const] : []),
    ...(owner ? [[owner, 'text', false] as const] : []),
    ...(kind.stamped ? [['who', 'text', false] as const, ['at', 'integer', false] as const] : []),
    ...(kind.table === 'job' ? [['createdAt', 'integer', false] as const] : []),
    ['version', 'integer', false],
    ['removedAt', 'integer', true],
  ]
}

function entityOf(table: RowTable): EntitySchema<StoredRow> {
  const kind = rowKinds[table]
  const columns: Record<string, EntitySchemaColumnOptions> = { id: { type: 'text', primary: true } }
  for (const [name, storage, open] of columnsAround(kind)) columns[name] = { type: storage, nullable: open }
  for (const [name, field] of Object.entries(kind.fields))
    columns[name] = { type: storageOf(field), nullable: field.open }
  return new EntitySchema<StoredRow>({ name: table, tableName: table, columns: columns as never })
}

/** The tables of rows that people edit, made from the definitions of their fields. */
export const rowEntities = Object.fromEntries(rowTables.map((table) => [table, entityOf(table)])) as Readonly<
  Record<RowTable, EntitySchema<StoredRow>>
>

/** Fields as they lie in the database. */
export function toStored(table: RowTable, fields: Readonly<Record<string, unknown>>): Record<string, unknown> {
  const known = rowKinds[table].fields
  return Object.fromEntries(
    Object.entries(fields).map(([name, value]) => {
      const field = known[name]
      return [name, field && isJson(field) && value !== null ? JSON.stringify(value) : value]
    }),
  )
}

/** A row of the database as it stands in the job, without what only the database needs. */
export function fromStored(table: RowTable, stored: Readonly<Record<string, unknown>>): AnyRow {
  const kind = rowKinds[table]
  const row: Record<string, unknown> = { id: stored.id, version: stored.version }
  for (const [name, field] of Object.entries(kind.fields)) {
    const value = stored[name]
    row[name] =
      value === null || value === undefined
        ? null
        : isJson(field)
          ? JSON.parse(String(value))
          : field.type.is === 'yes-no'
            ? Boolean(value)
            : value
  }
  if (kind.stamped) Object.assign(row, { who: stored.who, at: stored.at })
  return row as AnyRow
}

/** One column that a table should have. */
interface WantedColumn {
  readonly table: RowTable
  readonly name: string
  /** As SQL says it when it is added to rows that are there already; `undefined` where nobody can say what those have. */
  readonly sql: string | undefined
}

/** Every column that the definitions ask for. */
export const wantedColumns: readonly WantedColumn[] = rowTables.flatMap((table) => {
  const kind = rowKinds[table]
  const around = columnsAround(kind).map(([name, storage, open]) => ({
    table,
    name,
    sql: open ? storage : undefined,
  }))
  const own = Object.entries(kind.fields).map(([name, field]) => ({ table, name, sql: sqlOf(field) }))
  return [{ table, name: 'id', sql: undefined }, ...around, ...own]
})

function sqlOf(field: Field<unknown>): string | undefined {
  const storage = storageOf(field)
  if (field.open) return storage
  if (!('blank' in field)) return undefined
  const blank = isJson(field) ? JSON.stringify(field.blank) : field.blank
  const literal = typeof blank === 'string' ? `'${blank.replaceAll("'", "''")}'` : String(Number(blank))
  return `${storage} NOT NULL DEFAULT ${literal}`
}

/** Fields of a table that is chosen at run time: what they are is said by its definition, not by a type. */
type Values = QueryDeepPartialEntity<StoredRow>

export async function insertRows(
  manager: EntityManager,
  table: RowTable,
  rows: readonly Readonly<Record<string, unknown>>[],
): Promise<void> {
  await manager.insert(rowEntities[table], rows as readonly object[] as Values[])
}

export async function updateRow(
  manager: EntityManager,
  table: RowTable,
  id: string,
  values: Readonly<Record<string, unknown>>,
): Promise<void> {
  await manager.update(rowEntities[table], { id }, values as object as Values)
}
