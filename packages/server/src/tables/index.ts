export { deviceTable, networkTable, type Table } from './deviceTables'
export { readWorkbook, WORKBOOK_LIMIT } from './readWorkbook'
export { workbookOf } from './writeWorkbook'
