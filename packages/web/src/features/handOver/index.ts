export { HandOverPage } from './handOverPage'
export { RecordPage } from './recordPage'
