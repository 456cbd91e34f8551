export {
  BASIS_KEEPS,
  changesSince,
  howWords,
  laterFacts,
  type Basis,
  type Change,
  type Decision,
  type Evidence,
  type How,
} from './evidence'
export {
  changeText,
  ladderOf,
  rungStateWords,
  type Ladder,
  type LadderFacts,
  type RungOnLadder,
  type RungState,
} from './ladder'
export { rungFacts, rungs, type Rung, type RungFacts } from './rungs'
