export { isPlainlyPossible, searchFrom, USUAL_EFFORT, type Limits } from './search'
export { remainingOf } from './bound'
