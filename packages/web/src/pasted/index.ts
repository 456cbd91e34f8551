export {
  decodeText,
  letter,
  MOST_POINT_ROWS,
  readTableFile,
  rowsOf,
  TABLE_FILE_LIMIT,
  textOf,
  textWithRest,
} from './readTable'
export { PastedTable } from './pastedTable'
