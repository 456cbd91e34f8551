export type { Fault, FaultKind, HopExplanation } from './fault'
export { findFaults, type HopFinding, type PathFinding } from './find'
export type { OtherWords, PathHop, PathSeen, ValueHop, WordHop } from './hops'
