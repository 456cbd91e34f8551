export { searchFrom, USUAL_EFFORT } from './search'
export { remainingOf } from './bound'
