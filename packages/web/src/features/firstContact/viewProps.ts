import type { Job } from '@calm/core/job'
import type { LaptopState, WalkRecord } from '@calm/core/procedure'
import type { WalkActs } from '../../api'
import type { FirstContact } from './useFirstContact'

/** What every view of first contact is given. */
export interface ViewProps {
  readonly job: Job
  readonly record: WalkRecord
  readonly contact: FirstContact
  readonly acts: WalkActs
  readonly laptop: LaptopState | undefined
}
