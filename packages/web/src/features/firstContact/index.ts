export { FirstContactPage } from './firstContactPage'
export { SearchHere } from './searchHere'
