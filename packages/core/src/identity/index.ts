export { parseHardwareAddress } from './mac'
export { differences, parseHostName } from './names'
export { versionFits, type VersionRelation } from './version'
