export { laptopInterfaces } from './interfaces'
export { laptopState } from './state'
