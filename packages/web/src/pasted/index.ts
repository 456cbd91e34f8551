export { decodeText, letter, readTableFile, rowsOf, TABLE_FILE_LIMIT, textOf } from './readTable'
export { PastedTable } from './pastedTable'
