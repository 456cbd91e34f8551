export { parseHardwareAddress } from './mac'
export { differences, parseHostName } from './names'
export { compareVersions, hangsOnUnfinished, isVersion, versionFits, type VersionRelation } from './version'
