export type { Fault, FaultKind, HopExplanation } from './fault'
export { findFaults, type HopFinding, type PathFinding } from './find'
export { hopsShown, type HopShown } from './shown'
export type { OtherWords, PathHop, PathSeen, ValueHop, WordHop } from './hops'
