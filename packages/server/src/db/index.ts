export * from './entities'
export type * from './rows'
export { openDatabase } from './open'
