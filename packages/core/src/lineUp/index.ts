export { adoptedBy, type Adopted } from './adopted'
export { cellChanges, comesAsMaster, mergedEdits, nextPosition } from './cellChanges'
export { checkLineUp, standingFindings, type AcceptedFinding } from './checkLineUp'
export type { CellEdit, DeviceColumnId } from './column'
export { deviceColumn, deviceColumns } from './columns'
export {
  matchColumns,
  readDeviceRows,
  rememberedMatch,
  tableChanges,
  type ColumnMatch,
  type DeviceRowReading,
} from './deviceTable'
export { blockFor, proposeAddress } from './propose'
export { renumber, type Renumbering } from './renumber'
export { reservationFormats, reservationsOf, type Reservation, type ReservationFormatId } from './reservations'
export { deviceRules } from './rules'
export { topologyOf, type Topology, type TopologyBox, type TopologyLink } from './topology'
