import { EventEmitter } from 'node:events'
import type { DataSource, EntityManager } from 'typeorm'
import { plainText } from '@calm/core/units'
import { logEntries } from '../db'
import { CHAIN_START, hashOf } from './chain'

/** One write: everything in it happens, or nothing. */
export interface Tx {
  readonly manager: EntityManager
  readonly who: string
  readonly now: number
  /** Adds a line to the job's log, chained to the one before. */
  readonly log: (jobId: string, what: string, detail?: unknown) => Promise<void>
}

/** The database with its order of writes: one after the other, each in a transaction, each with its log lines. */
export class Store {
  readonly #changes = new EventEmitter().setMaxListeners(0)
  #last: Promise<unknown> = Promise.resolve()

  constructor(
    readonly source: DataSource,
    readonly clock: () => number,
  ) {}

  /**
   * Runs a write when those before it are done. SQLite has one writer, and log lines must follow each other.
   * @param page the page that knows already what comes of it, and need not fetch the job again
   */
  write<T>(who: string, work: (tx: Tx) => Promise<T>, page?: string): Promise<T> {
    const touched = new Set<string>()
    const run = async () => {
      const result = await this.source.transaction((manager) => {
        const now = this.clock()
        const log = async (jobId: string, what: string, detail: unknown = {}) => {
          touched.add(jobId)
          const before = await manager.findOne(logEntries, { where: { jobId }, order: { sequence: 'DESC' } })
          const content = {
            jobId,
            at: now,
            who: plainText(who),
            // Whatever a device or a file said: a NUL would cut the text and break the chain for good.
            what: plainText(what),
            detail: JSON.stringify(detail),
            previousHash: before?.hash ?? CHAIN_START,
          }
          await manager.insert(logEntries, { ...content, hash: hashOf(content) })
        }
        return work({ manager, who, now, log })
      })
      for (const jobId of touched) this.#changes.emit('job', jobId, page)
      return result
    }
    const result = this.#last.then(run, run)
    this.#last = result.catch(() => undefined)
    return result
  }

  /** Calls back after every write that touched a job, with the page that asked for it. Returns the way to stop it. */
  onChange(listener: (jobId: string, page?: string) => void): () => void {
    this.#changes.on('job', listener)
    return () => this.#changes.off('job', listener)
  }
}
