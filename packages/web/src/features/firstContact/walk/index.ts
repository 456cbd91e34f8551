export { WalkView } from './walkView'
export { LeftOutNotes } from './leftOutNotes'
export { LaptopPanel } from './laptopPanel'
export { MenuAnswers } from './menuAnswers'
