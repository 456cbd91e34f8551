export { type DeviceLine, linesOf, several } from './lines'
export { TableView } from './tableView'
export { cellName, columnSets, fromKind } from './columnSets'
