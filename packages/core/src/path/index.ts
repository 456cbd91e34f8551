export { judgePath, type HopJudgement, type PathJudgement } from './judge'
export type { Observation, Source } from './observation'
export { ageText, staleMs, STALE_INTERVALS } from './stale'
export {
  findFaults,
  hopsShown,
  type Fault,
  type FaultKind,
  type HopExplanation,
  type HopFinding,
  type HopShown,
  type OtherWords,
  type PathFinding,
  type PathHop,
  type PathSeen,
  type ValueHop,
  type WordHop,
} from './faults'
