/** Rows as they lie in the database. JSON columns hold text; the store reads and writes them. */
export interface JobRow {
  id: string
  name: string
  place: string
  mode: string
  version: number
  addressRules: string
  createdAt: number
  removedAt: number | null
}
export interface NetworkRow {
  id: string
  jobId: string
  name: string
  cidr: string
  gateway: string | null
  vlan: number | null
  dhcp: string
  reserved: string
  school: string
  version: number
  removedAt: number | null
}
export interface LineRow {
  id: string
  jobId: string
  name: string
  medium: string
  family: string
  settings: string
  version: number
  removedAt: number | null
}
export interface NodeRow {
  id: string
  deviceId: string
  lineId: string
  name: string
  node: number | null
  isMaster: boolean
  version: number
  removedAt: number | null
}
export interface KindRow {
  id: string
  jobId: string
  facts: string
  version: number
  removedAt: number | null
}
export interface RequestRow {
  id: string
  jobId: string
  about: string
  what: string
  toWhom: string
  deviceIds: string
  askedOn: string | null
  dueOn: string | null
  answer: string
  answeredOn: string | null
  version: number
  removedAt: number | null
}
export interface AcceptanceRow {
  id: string
  jobId: string
  rule: string
  subjectId: string
  found: string
  reason: string
  who: string
  at: number
  version: number
  removedAt: number | null
}
export interface DeviceRow {
  id: string
  jobId: string
  position: number
  tag: string
  what: string
  kind: string
  behindId: string | null
  unitId: number | null
  asFound: string
  note: string
  place: string
  isolation: string
  orderCode: string
  orderCodeFound: string
  serialNumber: string
  firmwareFound: string
  firmwareNeeded: string
  firmwareRelation: string
  firmwareOfId: string | null
  hostName: string
  namePlaces: string
  setting: string | null
  effective: string | null
  startUpSeconds: number | null
  handsOnSeconds: number | null
  version: number
  removedAt: number | null
}
export interface PortRow {
  id: string
  deviceId: string
  name: string
  networkId: string | null
  address: string | null
  prefix: number | null
  gateway: string | null
  tcpPort: number
  mac: string | null
  school: string | null
  version: number
  removedAt: number | null
}
export interface HandshakeRow {
  id: string
  jobId: string
  position: number
  name: string
  controllerId: string
  deviceId: string
  version: number
  removedAt: number | null
}
export interface TermRow {
  id: string
  handshakeId: string
  termId: string
  end: string
  text: string
  notation: string | null
  origin: string
  version: number
}
export interface PointRow {
  id: string
  handshakeId: string
  position: number
  tag: string
  quantity: string
  unit: string
  decimals: number
  served: string | null
  shownAt: string
  reference: string | null
  tolerance: string
  version: number
}
export interface EvidenceRow {
  id: string
  handshakeId: string
  rung: string
  verdict: string
  who: string
  at: number
  how: string
  value: string
  basis: string
  mode: string
  detail: string
}
export interface DecisionRow {
  id: string
  handshakeId: string
  rung: string
  state: string
  reason: string
  who: string
  at: number
}
export interface ForcedRow {
  id: string
  jobId: string
  where: string
  value: string
  who: string
  at: number
  releasedBy: string | null
  releasedAt: number | null
  version: number
}
export interface LogRow {
  sequence: number
  jobId: string
  at: number
  who: string
  what: string
  detail: string
  previousHash: string
  hash: string
}
export interface SettingRow {
  key: string
  value: string
}

export interface WalkRow {
  jobId: string
  settings: string
  order: string
  version: number
}
export interface WalkStepRow {
  id: string
  jobId: string
  stepKey: string
  state: string
  note: string
  who: string
  at: number
  wait: string | null
  version: number
}
export interface FactRow {
  id: string
  jobId: string
  deviceId: string
  setting: string
  standing: string
  text: string
  how: string
  who: string
  at: number
}
export interface TemporaryRow {
  id: string
  jobId: string
  what: string
  putBack: string
  who: string
  at: number
  backBy: string | null
  backAt: number | null
  version: number
}
export interface RunRow {
  id: string
  jobId: string
  facts: string
  version: number
  removedAt: number | null
}
export interface KeepsakeRow {
  id: string
  jobId: string
  deviceId: string | null
  kind: string
  title: string
  content: string
  who: string
  at: number
}
