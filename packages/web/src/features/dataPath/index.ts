export { DataPathPage } from './dataPathPage'
