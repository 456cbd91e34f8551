import type Database from 'libsql'
import type { DataSource } from 'typeorm'
import { wantedColumns } from './rowTables'

type Plain = InstanceType<typeof Database>

const namesOf = (columns: readonly { readonly name: string }[]): ReadonlySet<string> =>
  new Set(columns.map((column) => column.name))

/**
 * A column that no definition of this program asks for: a newer program has added it, and this one would lose what
 * stands there.
 */
export function unknownColumn(database: Plain): { readonly table: string; readonly name: string } | undefined {
  for (const table of new Set(wantedColumns.map((column) => column.table))) {
    const there = database.prepare(`PRAGMA table_info("${table}")`).all() as { name: string }[]
    const wanted = namesOf(wantedColumns.filter((column) => column.table === table))
    const unknown = there.find((column) => !wanted.has(column.name))
    if (unknown) return { table, name: unknown.name }
  }
  return undefined
}

/** Gives tables the columns of fields that came since the database was made, each with what its definition calls blank. */
export async function addMissingColumns(source: DataSource): Promise<void> {
  for (const table of new Set(wantedColumns.map((column) => column.table))) {
    const there = namesOf(await source.query('SELECT "name" FROM pragma_table_info(?)', [table]))
    for (const { name, sql } of wantedColumns.filter((column) => column.table === table)) {
      if (there.has(name)) continue
      if (sql === undefined)
        throw new Error(`The table "${table}" has no "${name}", and nobody can say what to put there.`)
      await source.query(`ALTER TABLE "${table}" ADD COLUMN "${name}" ${sql}`)
    }
  }
}
