export { BASIS_KEEPS, changesSince, laterFacts, type Change, type Decision } from './evidence'
export {
  changeText,
  ladderOf,
  rungStateWords,
  type AskedPoint,
  type Ladder,
  type LadderFacts,
  type PointOnRung,
  type RungOnLadder,
  type RungState,
} from './ladder'
export { rungFacts, rungs, type Rung, type RungFacts } from './rungs'
