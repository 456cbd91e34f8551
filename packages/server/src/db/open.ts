import 'reflect-metadata'
import Database from 'libsql'
import { DataSource } from 'typeorm'
import { entities } from './entities'
import { FirstContact1764237600000 } from './firstContact'
import { FirstTables1764028800000 } from './firstTables'
import { LineUp1764151200000 } from './lineUp'
import { PortMac1764064800000 } from './portMac'

/** Pragmas that keep what was recorded through a power cut: WAL with a full sync, and links that hold. */
const PRAGMAS = ['journal_mode = WAL', 'synchronous = FULL', 'foreign_keys = ON', 'busy_timeout = 5000']

/** Opens the database file and brings it to the newest form. `:memory:` for tests. */
export async function openDatabase(file: string): Promise<DataSource> {
  const source = new DataSource({
    type: 'better-sqlite3',
    // The API-compatible driver that ships its binaries inside the registry.
    driver: Database,
    database: file,
    entities,
    migrations: [FirstTables1764028800000, PortMac1764064800000, LineUp1764151200000, FirstContact1764237600000],
    migrationsRun: true,
    synchronize: false,
  })
  await source.initialize()
  for (const pragma of PRAGMAS) await source.query(`PRAGMA ${pragma}`)
  return source
}
