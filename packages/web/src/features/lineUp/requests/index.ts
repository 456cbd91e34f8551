export { today } from './today'
export { AskedView } from './askedView'
