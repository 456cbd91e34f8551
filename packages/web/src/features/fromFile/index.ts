export { FromFileNote } from './fromFileNote'
