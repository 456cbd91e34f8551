import type { Bench } from '@calm/bench'
import type { Logger } from 'pino'
import type { Listenings, Sweeps, WaitWatcher } from '../firstContact'
import type { Job } from '@calm/core/job'
import type { LiveContext, LiveService } from '../live'
import type { Sessions } from '../security'
import type { Kept, Store } from '../store'

/** What routes work with. */
export interface AppContext {
  readonly store: Store
  readonly jobs: Kept<Job>
  readonly live: LiveService
  readonly liveContext: LiveContext
  readonly bench: Bench | undefined
  readonly waits: WaitWatcher
  readonly sweeps: Sweeps
  readonly listenings: Listenings
  readonly sessions: Sessions
  readonly guarded: boolean
  readonly allowedHosts: readonly string[]
  readonly log: Logger
  readonly clock: () => number
  readonly webRoot: string | undefined
  /** The file of the thread that reads workbooks; left out where the program is not built. */
  readonly workbookWorker: string | undefined
  readonly startedAt: number
}
