import { ownerField, rowKinds, type Job, type RowTable } from '../job'
import { ok, refusal, type Result } from '../units'
import type { Change, RowFields } from './change'
import { rowsById } from './rowsIn'

/** Rows by table and id, looked up many times while changes are followed one by one. */
function lookInto(job: Job) {
  const tables = new Map<RowTable, Map<string, { readonly version: number } & RowFields>>()
  const rowsOf = (table: RowTable) => {
    const known = tables.get(table)
    if (known) return known
    const made = new Map([...rowsById(job, table)].map(([id, { row }]) => [id, row]))
    tables.set(table, made)
    return made
  }
  return {
    row: (table: RowTable, id: string) => rowsOf(table).get(id),
    follow: (change: Change) => {
      const rows = rowsOf(change.table)
      const row = rows.get(change.id)
      if (change.op === 'remove') rows.delete(change.id)
      else if (change.op === 'set' && row) rows.set(change.id, { ...row, ...change.fields, version: row.version + 1 })
    },
  }
}

/** The way back of one change. `expect` is what must stand there still, for the way back to be right. */
type StepBack =
  | {
      readonly op: 'set'
      readonly table: RowTable
      readonly id: string
      readonly fields: RowFields
      readonly expect: RowFields
    }
  | { readonly op: 'remove'; readonly table: RowTable; readonly id: string }
  | { readonly op: 'restore'; readonly table: RowTable; readonly id: string }

export type WayBack = readonly StepBack[]

/** How changes are taken back, made from the job as it stands before them. */
export function wayBackOf(before: Job, changes: readonly Change[]): WayBack {
  const rows = lookInto(before)
  const added = new Set<string>()
  const steps: StepBack[] = []
  for (const change of changes) {
    const { table, id } = change
    // A row that is added here goes as a whole; what is changed of it meanwhile needs no way back of its own.
    if (change.op === 'add') {
      added.add(id)
      // A port goes and comes with its device, a term with its handshake.
      const owner = ownerField(rowKinds[table])
      if (owner !== undefined && added.has(String(change.fields[owner]))) continue
    } else if (added.has(id)) continue
    if (change.op === 'add' || change.op === 'restore') steps.push({ op: 'remove', table, id })
    else if (change.op === 'remove') steps.push({ op: 'restore', table, id })
    else {
      const row = rows.row(table, id)
      const fields = Object.fromEntries(Object.keys(change.fields).map((name) => [name, row?.[name]]))
      steps.push({ op: 'set', table, id, fields, expect: change.fields })
    }
    rows.follow(change)
  }
  return steps.reverse()
}

/**
 * The way back as changes of the job as it stands now. Refused when somebody has changed one of the rows since: then
 * nothing is taken back, and the row is named.
 */
export function changesBack(job: Job, way: WayBack): Result<readonly Change[]> {
  const changes: Change[] = []
  const rows = lookInto(job)
  for (const step of way) {
    const { table, id } = step
    if (step.op === 'restore') {
      changes.push({ op: 'restore', table, id })
      continue
    }
    const row = rows.row(table, id)
    if (!row) return gone(table)
    if (step.op === 'remove') changes.push({ op: 'remove', table, id, version: row.version })
    else {
      const other = Object.keys(step.expect).find((name) => !same(row[name], step.expect[name]))
      if (other !== undefined) return changedSince(table, row, other, step.expect[other])
      changes.push({ op: 'set', table, id, version: row.version, fields: step.fields })
    }
    const last = changes.at(-1)
    if (last) rows.follow(last)
  }
  return ok(changes)
}

const same = (a: unknown, b: unknown) => a === b || JSON.stringify(a) === JSON.stringify(b)
const gone = (table: RowTable) =>
  refusal(
    'undo.gone',
    `The ${rowKinds[table].name} is not there any more, so this cannot be taken back.`,
    'nothing',
    `the ${rowKinds[table].name}`,
  )

function changedSince(table: RowTable, row: RowFields, field: string, expected: unknown): Result<never> {
  const called = String(row.tag ?? row.name ?? `the ${rowKinds[table].name}`)
  const name = rowKinds[table].fields[field]?.name ?? field
  return refusal(
    'undo.changed',
    `Somebody changed ${called} since (${name}); what they wrote stays.`,
    String(row[field] ?? 'blank'),
    String(expected ?? 'blank'),
  )
}
