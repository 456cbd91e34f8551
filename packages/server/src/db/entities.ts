import { EntitySchema, type EntitySchemaColumnOptions } from 'typeorm'

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

const text: EntitySchemaColumnOptions = { type: 'text' }
const textOrNone: EntitySchemaColumnOptions = { type: 'text', nullable: true }
const whole: EntitySchemaColumnOptions = { type: 'integer' }
const wholeOrNone: EntitySchemaColumnOptions = { type: 'integer', nullable: true }
const real: EntitySchemaColumnOptions = { type: 'real' }
const id: EntitySchemaColumnOptions = { type: 'text', primary: true }

type Columns<T> = { [K in keyof T]-?: EntitySchemaColumnOptions }
const table = <T extends object>(name: string, columns: Columns<T>) =>
  new EntitySchema<T>({ name, tableName: name, columns })

export const jobs = table<JobRow>('job', {
  id,
  name: text,
  place: text,
  mode: text,
  version: whole,
  addressRules: text,
  createdAt: whole,
  removedAt: wholeOrNone,
})
export const networks = table<NetworkRow>('network', {
  id,
  jobId: text,
  name: text,
  cidr: text,
  gateway: textOrNone,
  vlan: wholeOrNone,
  dhcp: text,
  reserved: text,
  school: text,
  version: whole,
  removedAt: wholeOrNone,
})
export const lines = table<LineRow>('line', {
  id,
  jobId: text,
  name: text,
  medium: text,
  family: text,
  settings: text,
  version: whole,
  removedAt: wholeOrNone,
})
export const nodes = table<NodeRow>('node', {
  id,
  deviceId: text,
  lineId: text,
  name: text,
  node: wholeOrNone,
  isMaster: { type: 'boolean' },
  version: whole,
  removedAt: wholeOrNone,
})
export const kinds = table<KindRow>('kind', { id, jobId: text, facts: text, version: whole, removedAt: wholeOrNone })
export const requests = table<RequestRow>('request', {
  id,
  jobId: text,
  about: text,
  what: text,
  toWhom: text,
  deviceIds: text,
  askedOn: textOrNone,
  dueOn: textOrNone,
  answer: text,
  answeredOn: textOrNone,
  version: whole,
  removedAt: wholeOrNone,
})
export const acceptances = table<AcceptanceRow>('acceptance', {
  id,
  jobId: text,
  rule: text,
  subjectId: text,
  found: text,
  reason: text,
  who: text,
  at: whole,
  version: whole,
  removedAt: wholeOrNone,
})
export const devices = table<DeviceRow>('device', {
  id,
  jobId: text,
  position: real,
  tag: text,
  what: text,
  kind: text,
  behindId: textOrNone,
  unitId: wholeOrNone,
  asFound: text,
  note: text,
  place: text,
  isolation: text,
  orderCode: text,
  orderCodeFound: text,
  serialNumber: text,
  firmwareFound: text,
  firmwareNeeded: text,
  firmwareRelation: text,
  firmwareOfId: textOrNone,
  hostName: text,
  namePlaces: text,
  setting: textOrNone,
  effective: textOrNone,
  startUpSeconds: wholeOrNone,
  handsOnSeconds: wholeOrNone,
  version: whole,
  removedAt: wholeOrNone,
})
export const ports = table<PortRow>('port', {
  id,
  deviceId: text,
  name: text,
  networkId: textOrNone,
  address: textOrNone,
  prefix: wholeOrNone,
  gateway: textOrNone,
  tcpPort: whole,
  mac: textOrNone,
  school: textOrNone,
  version: whole,
  removedAt: wholeOrNone,
})
export const handshakes = table<HandshakeRow>('handshake', {
  id,
  jobId: text,
  position: real,
  name: text,
  controllerId: text,
  deviceId: text,
  version: whole,
  removedAt: wholeOrNone,
})
export const terms = table<TermRow>('term', {
  id,
  handshakeId: text,
  termId: text,
  end: text,
  text,
  notation: textOrNone,
  origin: text,
  version: whole,
})
export const points = table<PointRow>('point', {
  id,
  handshakeId: text,
  position: real,
  tag: text,
  quantity: text,
  unit: text,
  decimals: whole,
  served: textOrNone,
  shownAt: text,
  reference: textOrNone,
  tolerance: text,
  version: whole,
})
export const evidence = table<EvidenceRow>('evidence', {
  id,
  handshakeId: text,
  rung: text,
  verdict: text,
  who: text,
  at: whole,
  how: text,
  value: text,
  basis: text,
  mode: text,
  detail: text,
})
export const decisions = table<DecisionRow>('decision', {
  id,
  handshakeId: text,
  rung: text,
  state: text,
  reason: text,
  who: text,
  at: whole,
})
export const forced = table<ForcedRow>('forced', {
  id,
  jobId: text,
  where: text,
  value: text,
  who: text,
  at: whole,
  releasedBy: textOrNone,
  releasedAt: wholeOrNone,
  version: whole,
})
export const logEntries = table<LogRow>('log_entry', {
  sequence: { type: 'integer', primary: true, generated: 'increment' },
  jobId: text,
  at: whole,
  who: text,
  what: text,
  detail: text,
  previousHash: text,
  hash: text,
})
export const settings = table<SettingRow>('setting', { key: id, value: text })

export const entities = [
  jobs,
  networks,
  lines,
  devices,
  ports,
  nodes,
  kinds,
  requests,
  acceptances,
  handshakes,
  terms,
  points,
  evidence,
  decisions,
  forced,
  logEntries,
  settings,
]
