import type { RunFacts } from '../run'
import { addressed } from './addressed'
import { onLines } from './lines'
import { systems } from './systems'

/** The runs that ship. @source common practice, no source; the manual of the device counts */
export const shippedRuns: readonly RunFacts[] = [...addressed, ...systems, ...onLines]
