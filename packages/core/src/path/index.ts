export { judgePath, type HopJudgement, type PathJudgement, type PathQuestion } from './judge'
export type { Observation, Source } from './observation'
