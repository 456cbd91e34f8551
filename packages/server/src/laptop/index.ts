export { laptopInterfaces } from './interfaces'
