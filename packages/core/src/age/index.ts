export { ageAlong, changesFor, type Age, type AgeChange, type AgeShare, type AgeStage, type Viewer } from './age'
export { judgeAge, type AgeJudgement, type PlannedStage } from './judge'
