export * from './entities'
export type * from './rows'
export { FolderInUse, FolderLock } from './lock'
export { closeDatabase, NotOurDatabase, openDatabase, putIntoFile } from './open'
