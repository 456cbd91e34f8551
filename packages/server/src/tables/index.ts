export { deviceTable, networkTable, type Table } from './deviceTables'
export { WORKBOOK_LIMIT } from './readWorkbook'
export { readWorkbookApart } from './readApart'
export { workbookOf } from './writeWorkbook'
