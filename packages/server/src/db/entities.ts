import { EntitySchema, type EntitySchemaColumnOptions } from 'typeorm'

import type {
  DecisionRow,
  EvidenceRow,
  FactRow,
  ForcedRow,
  KeepsakeRow,
  LogRow,
  RunRow,
  SettingRow,
  TemporaryRow,
  WalkRow,
  WalkStepRow,
} from './rows'
import { rowEntities } from './rowTables'

const text: EntitySchemaColumnOptions = { type: 'text' }
const textOrNone: EntitySchemaColumnOptions = { type: 'text', nullable: true }
const whole: EntitySchemaColumnOptions = { type: 'integer' }
const wholeOrNone: EntitySchemaColumnOptions = { type: 'integer', nullable: true }
const id: EntitySchemaColumnOptions = { type: 'text', primary: true }

type Columns<T> = { [K in keyof T]-?: EntitySchemaColumnOptions }
const table = <T extends object>(name: string, columns: Columns<T>) =>
  new EntitySchema<T>({ name, tableName: name, columns })

export const evidence = table<EvidenceRow>('evidence', {
  id,
  jobId: text,
  subjectKind: text,
  subjectId: text,
  rung: text,
  verdict: text,
  who: text,
  at: whole,
  how: text,
  mode: text,
  facts: text,
  basis: text,
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
  rests: textOrNone,
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
  ...Object.values(rowEntities),
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
