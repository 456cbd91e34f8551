export { bodies, schemaOf } from './bodies'
