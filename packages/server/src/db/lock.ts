import { readFileSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import Database from 'libsql'

/** Who holds a data folder. */
interface Holder {
  readonly pid: number
  /** 0 while it is still starting. */
  readonly port: number
}

/** Thrown where another program has the folder already. */
export class FolderInUse extends Error {
  constructor(
    readonly folder: string,
    readonly holder: Holder | undefined,
  ) {
    super(`The data folder ${folder} is in use.`)
  }
}

/**
 * Holds a data folder for one program. The lock is one that the system itself keeps on an open file: it ends with its
 * owner, however that ends, so there is never a stale one to clear away. Who holds it stands in a file beside it.
 */
export class FolderLock {
  readonly #database: InstanceType<typeof Database>
  readonly #note: string

  /** @throws FolderInUse */
  constructor(readonly folder: string) {
    this.#note = join(folder, 'calm-handshake.running.json')
    this.#database = new Database(join(folder, 'calm-handshake.lock'), { timeout: 0 })
    try {
      this.#database.exec('BEGIN EXCLUSIVE')
    } catch (reason) {
      this.#database.close()
      // Only a lock that is held means another program: on a full disk it cannot be written, and nobody has it.
      throw isHeld(reason) ? new FolderInUse(folder, readHolder(this.#note)) : reason
    }
    this.say(0)
  }

  /** Leaves word of the port for whoever comes next. */
  say(port: number): void {
    writeFileSync(this.#note, JSON.stringify({ pid: process.pid, port } satisfies Holder))
  }

  release(): void {
    rmSync(this.#note, { force: true })
    this.#database.exec('ROLLBACK')
    this.#database.close()
  }
}

/** Whether somebody else has the lock. @source SQLite result codes: SQLITE_BUSY (5), SQLITE_LOCKED (6) */
export function isHeld(reason: unknown): boolean {
  const { code, message = '' } = reason as { code?: unknown; message?: string }
  return /^SQLITE_(BUSY|LOCKED)/.test(String(code)) || /database (table )?is locked/i.test(message)
}

function readHolder(file: string): Holder | undefined {
  try {
    const { pid, port } = JSON.parse(readFileSync(file, 'utf8'))
    return typeof pid === 'number' && typeof port === 'number' ? { pid, port } : undefined
  } catch {
    return undefined
  }
}
