import 'reflect-metadata'
import { existsSync, statSync } from 'node:fs'
import Database from 'libsql'
import { DataSource } from 'typeorm'
import { entities } from './entities'
import { addMissingColumns, unknownColumn } from './fields'
import { FirstContact1764237600000 } from './firstContact'
import { FirstTables1764028800000 } from './firstTables'
import { Ground1764324000000 } from './ground'
import { LineUp1764151200000 } from './lineUp'
import { Standings1764374400000 } from './standings'
import { StepRests1764633600000 } from './stepRests'
import { PortMac1764064800000 } from './portMac'

/** Pragmas that keep what was recorded through a power cut: WAL with a full sync, and links that hold. */
const PRAGMAS = ['journal_mode = WAL', 'synchronous = FULL', 'foreign_keys = ON', 'busy_timeout = 5000']

export const migrations = [
  FirstTables1764028800000,
  PortMac1764064800000,
  LineUp1764151200000,
  FirstContact1764237600000,
  Ground1764324000000,
  Standings1764374400000,
  StepRests1764633600000,
]

/** Why a file cannot be opened as our database, in a sentence. */
export class NotOurDatabase extends Error {}

/**
 * Opens the database file and brings it to the newest form. `:memory:` for tests.
 * @throws NotOurDatabase for a folder, a damaged or foreign file, and for a database of a newer program
 */
export async function openDatabase(file: string): Promise<DataSource> {
  if (file !== ':memory:' && existsSync(file)) examine(file)
  const source = new DataSource({
    type: 'better-sqlite3',
    // The API-compatible driver that ships its binaries inside the registry.
    driver: Database,
    database: file,
    entities,
    migrations,
    migrationsRun: true,
    synchronize: false,
  })
  await source.initialize()
  for (const pragma of PRAGMAS) await source.query(`PRAGMA ${pragma}`)
  await addMissingColumns(source)
  await putIntoFile(source)
  return source
}

/** Closes the database so that its file alone holds everything: copying the file is then a copy of the work. */
export async function closeDatabase(source: DataSource): Promise<void> {
  await putIntoFile(source)
  await source.destroy()
}

/** What lies in the write-ahead log is put into the database file, and the log is emptied. */
export async function putIntoFile(source: DataSource): Promise<void> {
  await source.query('PRAGMA wal_checkpoint(TRUNCATE)')
}

/** Looks at a file before anything is written to it. */
function examine(file: string): void {
  if (statSync(file).isDirectory())
    throw new NotOurDatabase(
      `${file} is a folder; the database should be a file. Move it away, or choose another --data DIR.`,
    )
  const database = opened(file)
  try {
    const health = pragma(database, 'quick_check(1)')
    if (health !== 'ok') throw damaged(file, health)
    const tables = database.prepare(`SELECT name FROM sqlite_master WHERE type = 'table'`).all() as { name: string }[]
    const names = tables.map((table) => table.name)
    if (names.length === 0) return
    if (!names.includes('migrations') || !names.includes('log_entry'))
      throw new NotOurDatabase(
        `${file} is the database of another program (it holds ${names.slice(0, 3).join(', ')}). Choose another --data DIR.`,
      )
    const known = new Set<string>(migrations.map((migration) => new migration().name))
    const made = database.prepare('SELECT name FROM migrations').all() as { name: string }[]
    const newer = made.find((migration) => !known.has(migration.name))
    if (newer)
      throw new NotOurDatabase(
        `${file} was written by a newer program (it has ${newer.name}). Use that one, or choose another --data DIR.`,
      )
    const unknown = unknownColumn(database)
    if (unknown)
      throw new NotOurDatabase(
        `${file} was written by a newer program (it has "${unknown.name}" of a ${unknown.table}). Use that one, or choose another --data DIR.`,
      )
  } catch (reason) {
    throw reason instanceof NotOurDatabase ? reason : damaged(file, reason)
  } finally {
    database.close()
  }
}

function opened(file: string): InstanceType<typeof Database> {
  try {
    return new Database(file)
  } catch (reason) {
    throw damaged(file, reason)
  }
}

function pragma(database: InstanceType<typeof Database>, name: string): string {
  const [row] = database.prepare(`PRAGMA ${name}`).all() as Record<string, unknown>[]
  return String(Object.values(row ?? {})[0] ?? '')
}

function damaged(file: string, reason: unknown): NotOurDatabase {
  const what = reason instanceof Error ? reason.message : String(reason)
  return new NotOurDatabase(
    `${file} cannot be read as a database (${what}). It is damaged, cut off, or another kind of file. Put a copy in its place, or choose another --data DIR.`,
  )
}
