export { cellChanges, comesAsMaster, mergedEdits, newDeviceChanges, nextPosition } from './cellChanges'
export { checkLineUp, standingFindings, type AcceptedFinding } from './checkLineUp'
export type { CellEdit, DeviceColumn, DeviceColumnId } from './column'
export { deviceColumn, deviceColumns } from './columns'
export {
  matchColumns,
  readDeviceRows,
  rememberedMatch,
  tableChanges,
  type ColumnMatch,
  type DeviceRowReading,
} from './deviceTable'
export { blockFor, proposeAddress, type Proposal } from './propose'
export { renumber, type RenumberAsk, type Renumbering } from './renumber'
export { reservationFormats, reservationsOf, type Reservation, type ReservationFormatId } from './reservations'
export { deviceRules, relationWords } from './rules'
export { topologyOf, type Topology, type TopologyBox, type TopologyLink } from './topology'
