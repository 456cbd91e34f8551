export { useFindings } from './useFindings'
export { useLayout } from './useLayout'
export type { LaidOut, Placed } from './layout.worker'
export { useWalkPlan, type PlannedWalk, type WalkPlanning } from './useWalkPlan'
