export { bringUp, type BringUpAnswer } from './bringUp'
export {
  usualSeconds,
  type ActionSeconds,
  type BringUpAction,
  type BringUpCost,
  type BringUpDevice,
  type BringUpJob,
  type HostAddress,
  type Preference,
  type PowerGroup,
} from './bringUpJob'
export type { Impossible } from './impossible'
export type { ListOrder } from './listOrder'
export { precedenceOf, type Wait } from './precedence'
export { scheduleOf, type Schedule, type Task } from './schedule'
export { impossibleAlone, listed, reducedTo } from './impossible'
export { wordsOf, type ActionWords } from './reasons'
export { replan } from './replan'
