export { FirstContactPage } from './firstContactPage'
export { SearchHere } from './find'
