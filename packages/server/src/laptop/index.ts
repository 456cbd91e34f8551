export { laptopAddresses, laptopInterfaces } from './interfaces'
