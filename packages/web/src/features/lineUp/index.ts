export { LineUpPage } from './lineUpPage'
