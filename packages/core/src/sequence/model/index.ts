export {
  type BringUpAction,
  type BringUpCost,
  type BringUpDevice,
  type BringUpJob,
  type HostAddress,
  type PowerGroup,
  usualSeconds,
} from './bringUpJob'
export { allCuts, cuts, cutsBuiltOn, type Cut } from './cuts'
export { type CompiledJob, compileJob, sameSpot } from './compile'
export {
  addressAt,
  clashes,
  codeOf,
  copyOf,
  holderOf,
  isDone,
  isOnSwitch,
  isLive,
  keyOf,
  startState,
  type State,
} from './state'
export { after, apply, costOf, isLegal, type Move } from './moves'
export { type Facts, factsOf, keepOrder } from './facts'
