export { addressPlanOf } from './addressPlan'
export {
  deviceColumns,
  matchColumns,
  readDeviceRows,
  type ColumnMatch,
  type DeviceColumn,
  type DeviceRowReading,
  type RowDevice,
} from './deviceTable'
export { basisOf, handshakeLadderOf, type LadderOf } from './handshakeLadder'
export { deviceOf, fromLineUp, handshakeTermsOf, isFromLineUp, reachedAt, termContextOf } from './handshakeTerms'
export { deviceKinds, type DeviceKindFacts } from './kinds'
export type {
  Device,
  DeviceKind,
  ForcedValue,
  Handshake,
  Job,
  Mode,
  Network,
  Point,
  Port,
  Reference,
  StoredDecision,
  StoredEvidence,
  Term,
} from './model'
export { proposeAddress, type Proposal } from './propose'
export { readinessOf, type Readiness, type RungReadiness } from './readiness'
