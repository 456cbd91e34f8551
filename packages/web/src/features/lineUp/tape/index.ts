export { NodeTape } from './nodeTape'
export { TapeDrawing } from './tapeDrawing'
export { tapeOf } from './tapeModel'
export { Tape } from './tape'
