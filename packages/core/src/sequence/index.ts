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
} from './model/bringUpJob'
export type { Impossible } from './explain/impossible'
export type { ListOrder } from './explain/listOrder'
export { precedenceOf, type Wait } from './schedule/precedence'
export { scheduleOf, type Schedule, type Task } from './schedule/schedule'
export { impossibleAlone, listed, reducedTo } from './explain/impossible'
export { wordsOf, type ActionWords } from './explain/reasons'
export { replan } from './replan'
