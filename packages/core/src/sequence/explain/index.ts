export {
  explainConflict,
  type Impossible,
  impossibleAlone,
  isImpossible,
  listed,
  reducedTo,
  smallestConflict,
  sparedDown,
} from './impossible'
export { type ListOrder, listOrderOf } from './listOrder'
export { wordsOf } from './reasons'
