export { judgePath, type HopJudgement, type PathJudgement } from './judge'
export type { Observation, Source } from './observation'
