export { PastePreview } from './pastePreview'
