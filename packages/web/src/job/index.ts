export { claspFor, ladderFor } from './standing'
export { childrenOf, deviceIdsOfRows, troubledDevices } from './troubled'
