export { FirstContactPage } from './firstContactPage'
