export { BASIS_KEEPS, laterFacts, type Change, type Decision } from './evidence'
export {
  ladderOf,
  rungStateWords,
  standingOfPoint,
  type Ladder,
  type PointOnRung,
  type RungOnLadder,
  type RungState,
} from './ladder'
export { rungFacts, rungs, type Rung } from './rungs'
