export { parseHardwareAddress, type HardwareAddress } from './mac'
export { differences, parseHostName, type Difference } from './names'
export { compareVersions, versionFits, type VersionRelation } from './version'
