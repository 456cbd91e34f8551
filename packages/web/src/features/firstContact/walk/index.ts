export { WalkView } from './walkView'
export { LeftOutNotes } from './leftOutNotes'
