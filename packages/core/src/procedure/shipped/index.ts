import type { RunFacts } from '../run'
import { atTheDevice } from './atTheDevice'
import { onLines } from './lines'
import { onDemand } from './onDemand'
import { overTheNetwork } from './overTheNetwork'
import { supervision } from './supervision'
import { systems } from './systems'

/** The runs that ship. @source common practice, no source; the manual of the device counts */
export const shippedRuns: readonly RunFacts[] = [
  ...overTheNetwork,
  ...atTheDevice,
  ...systems,
  ...supervision,
  ...onLines,
  ...onDemand,
]
