/** Rows of tables that nobody edits field by field, as they lie in the database. JSON columns hold text. */
export interface EvidenceRow {
  id: string
  jobId: string
  subjectKind: string
  subjectId: string
  rung: string
  verdict: string
  who: string
  at: number
  how: string
  mode: string
  facts: string
  basis: string
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
  rests: string | null
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
