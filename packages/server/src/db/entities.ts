import { EntitySchema, type EntitySchemaColumnOptions } from 'typeorm'

import type {
  JobRow,
  NetworkRow,
  LineRow,
  NodeRow,
  KindRow,
  RequestRow,
  AcceptanceRow,
  DeviceRow,
  PortRow,
  HandshakeRow,
  TermRow,
  PointRow,
  EvidenceRow,
  DecisionRow,
  ForcedRow,
  LogRow,
  SettingRow,
  WalkRow,
  WalkStepRow,
  FactRow,
  TemporaryRow,
  RunRow,
  KeepsakeRow,
} from './rows'

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

export const walks = table<WalkRow>('walk', {
  jobId: id,
  settings: text,
  order: text,
  version: whole,
})
export const walkSteps = table<WalkStepRow>('walk_step', {
  id,
  jobId: text,
  stepKey: text,
  state: text,
  note: text,
  who: text,
  at: whole,
  wait: textOrNone,
  version: whole,
})
export const facts = table<FactRow>('fact', {
  id,
  jobId: text,
  deviceId: text,
  setting: text,
  standing: text,
  text,
  how: text,
  who: text,
  at: whole,
})
export const temporaries = table<TemporaryRow>('temporary', {
  id,
  jobId: text,
  what: text,
  putBack: text,
  who: text,
  at: whole,
  backBy: textOrNone,
  backAt: wholeOrNone,
  version: whole,
})
export const ownRuns = table<RunRow>('run', { id, jobId: text, facts: text, version: whole, removedAt: wholeOrNone })
export const keepsakes = table<KeepsakeRow>('keepsake', {
  id,
  jobId: text,
  deviceId: textOrNone,
  kind: text,
  title: text,
  content: text,
  who: text,
  at: whole,
})

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
  walks,
  walkSteps,
  facts,
  temporaries,
  ownRuns,
  keepsakes,
]
