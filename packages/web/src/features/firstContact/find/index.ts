export { SearchHere } from './searchHere'
