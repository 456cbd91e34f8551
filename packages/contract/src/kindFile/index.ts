export { kindFileOf, readKindFile } from './kindFile'
