export { childrenOf, deviceIdsOfRows, troubledDevices } from './troubled'
