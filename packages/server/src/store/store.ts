import { EventEmitter } from 'node:events'
import type { Job } from '@calm/core/job'
import type { WalkRecord } from '@calm/core/procedure'
import type { DataSource, EntityManager } from 'typeorm'
import { plainText } from '@calm/core/units'
import { logEntries } from '../db'
import { CHAIN_START, hashOf } from './chain'
import { Drafts, Kept } from './kept'
import { readJob } from './readJob'
import { revisionOf } from './revision'
import { readWalk } from './walkRecord'

/** One write: everything in it happens, or nothing. */
export interface Tx {
  readonly manager: EntityManager
  readonly who: string
  readonly now: number
  /** Adds a line to the job's log, chained to the one before. */
  readonly log: (jobId: string, what: string, detail?: unknown) => Promise<void>
  /** A job as it stands within this write. */
  readonly job: (jobId: string) => Promise<Job>
  /** Says what a job is now, within this write; it counts for everybody when the write is done. */
  readonly keep: (job: Job) => void
  /** A job has to be read anew: what came of the write is known to the database alone. */
  readonly forget: (jobId: string) => void
  /** A step of the walk was written without a line in the log. */
  readonly walkChanged: (jobId: string) => void
}

/** The database with its order of writes: one after the other, each in a transaction, each with its log lines. */
export class Store {
  readonly #changes = new EventEmitter().setMaxListeners(0)
  #last: Promise<unknown> = Promise.resolve()
  readonly jobs: Kept<Job>
  readonly walks: Kept<WalkRecord>
  /** How far each job has come: the number of its newest log entry. Every change of a job writes one. */
  readonly revisions: Kept<number>

  constructor(
    readonly source: DataSource,
    readonly clock: () => number,
  ) {
    this.jobs = new Kept((jobId) => this.read((manager) => readJob(manager, jobId)))
    this.walks = new Kept((jobId) => this.read((manager) => readWalk(manager, jobId)))
    this.revisions = new Kept((jobId) => this.read((manager) => revisionOf(manager, jobId)))
  }

  /** Reads from the database when the writes before it are done: on its one connection half a write would be seen. */
  read<T>(work: (manager: EntityManager) => Promise<T>): Promise<T> {
    return this.#queue(() => work(this.source.manager))
  }

  /**
   * Runs a write when those before it are done. SQLite has one writer, and log lines must follow each other.
   * @param page the page that knows already what comes of it, and need not fetch the job again
   */
  write<T>(who: string, work: (tx: Tx) => Promise<T>, page?: string): Promise<T> {
    return this.#queue(async () => {
      const touched = new Map<string, number>()
      const walked = new Set<string>()
      const drafts = new Drafts<Job>(
        (jobId) => this.jobs.peek(jobId),
        (jobId) => readJob(this.source.manager, jobId),
      )
      const result = await this.source.transaction(async (manager) => {
        // Rows of one write may point to each other in any order; whether all links hold is looked at when it ends.
        await manager.query('PRAGMA defer_foreign_keys = ON')
        const now = this.clock()
        const log = async (jobId: string, what: string, detail: unknown = {}) => {
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
          const { identifiers } = await manager.insert(logEntries, { ...content, hash: hashOf(content) })
          touched.set(jobId, Number(identifiers[0]?.sequence ?? 0))
        }
        return work({
          manager,
          who,
          now,
          log,
          job: (jobId) => drafts.get(jobId),
          keep: (job) => void drafts.made.set(job.id, job),
          forget: (jobId) => void drafts.made.set(jobId, undefined),
          walkChanged: (jobId) => void walked.add(jobId),
        })
      })
      for (const [jobId, job] of drafts.made) this.jobs.settle(jobId, job)
      for (const jobId of walked) this.walks.settle(jobId, undefined)
      for (const [jobId, revision] of touched) {
        this.walks.settle(jobId, undefined)
        this.revisions.settle(jobId, revision)
      }
      // A walk goes on without a line in the log as well: that a device was seen to go, how often it was looked for.
      for (const jobId of new Set([...touched.keys(), ...walked])) this.#changes.emit('job', jobId, page)
      return result
    })
  }

  /** Calls back after every write that touched a job or its walk, with the page that asked for it. Returns the way to stop it. */
  onChange(listener: (jobId: string, page?: string) => void): () => void {
    this.#changes.on('job', listener)
    return () => this.#changes.off('job', listener)
  }

  #queue<T>(work: () => Promise<T>): Promise<T> {
    const result = this.#last.then(work, work)
    this.#last = result.catch(() => undefined)
    return result
  }
}
