export { tableFiles, type TableFile } from './tableFiles'
export { memoryOf, writesOf, type MemoryWrite } from './gatewayMemory'
export { pointColumn, pointColumns, type PointColumn, type PointColumnId } from './columns'
export { isAmbiguous, readRegister, type DocumentCounts } from './document'
export { foundAtController, isFoundAtController, termsBy, type OtherReading } from './asTerms'
export { placeOf, placer, placesOf, type PlaceOrMissing, type PointPlace } from './place'
export {
  matchPointColumns,
  openRows,
  pointChanges,
  readPointRows,
  type PointMatch,
  type PointRowReading,
} from './pointTable'
export { checkPoints, findingsOf, pointRules, type PlacedPoint, type PointFinding, type PointFindings } from './rules'
export { commandRows, declarations, mapRows, markOf } from './tablesOut'
export { packingOf, tableOfMost, USUAL_POLL_MS, type DevicePacking } from './wanted'
export { expectedOf, placeBy, questionOf } from './why'
export { readLargest } from './largest'
export { usualOrder } from './usualOrder'
