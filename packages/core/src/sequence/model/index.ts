export {
  type BringUpAction,
  type BringUpCost,
  type BringUpDevice,
  type BringUpJob,
  type HostAddress,
  type PowerGroup,
  usualSeconds,
} from './bringUpJob'
export { type CompiledJob, compileJob, sameSpot } from './compile'
export { addressAt, codeOf, copyOf, isDone, isLive, keyOf, startState, type State } from './state'
export { after, apply, costOf, isLegal, type Move } from './moves'
