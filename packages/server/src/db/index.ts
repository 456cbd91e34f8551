export * from './entities'
export { openDatabase } from './open'
