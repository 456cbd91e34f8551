export { parseHardwareAddress } from './mac'
export { differences, parseHostName } from './names'
export { compareVersions, hangsOnUnfinished, versionFits, type VersionRelation } from './version'
