export { PastePreview } from './pastePreview'
export { decodeText, letter, rowsOf, textOf } from './readFile'
