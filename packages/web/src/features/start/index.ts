export { StartPage } from './startPage'
