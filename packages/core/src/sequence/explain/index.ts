export {
  besideFrozen,
  chainedTwins,
  explainConflict,
  type Impossible,
  impossibleAlone,
  isImpossible,
  smallestConflict,
  sparedDown,
} from './impossible'
export { type ListOrder, listOrderOf } from './listOrder'
export { wordsOf } from './reasons'
export { listed } from './names'
export { reducedTo } from './reduced'
