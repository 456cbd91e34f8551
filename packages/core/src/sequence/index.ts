export { bringUp, type BringUpAnswer } from './bringUp'
export {
  usualSeconds,
  type BringUpAction,
  type BringUpDevice,
  type BringUpJob,
  type HostAddress,
  type PowerGroup,
} from './model'
export { precedenceOf, type Wait } from './schedule'
export { scheduleOf, type Schedule, type Task } from './schedule'
export { besideFrozen, chainedTwins, impossibleAlone, listed, reducedTo } from './explain'
export { wordsOf } from './explain'
export { replan } from './replan'
export { USUAL_EFFORT } from './search'
