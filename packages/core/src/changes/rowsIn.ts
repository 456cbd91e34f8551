import { rowKinds, type AnyRow, type Device, type Handshake, type Job, type RowTable } from '../job'

/** A row with the one that holds it: a port with its device, a term with its handshake. */
export interface PlacedRow {
  readonly row: AnyRow
  readonly owner: AnyRow | undefined
}

const any = (row: object): AnyRow => row as AnyRow

/** The rows of one table, each with the one that holds it. */
function rowsOf(job: Job, table: RowTable): readonly PlacedRow[] {
  const { owner, list } = rowKinds[table]
  const listIn = (row: object): readonly AnyRow[] => (row as Record<string, readonly AnyRow[]>)[list] ?? []
  switch (owner) {
    case 'none':
      return [{ row: any(job), owner: undefined }]
    case 'job':
      return listIn(job).map((row) => ({ row, owner: undefined }))
    case 'device':
    case 'handshake': {
      const owners: readonly (Device | Handshake)[] = owner === 'device' ? job.devices : job.handshakes
      return owners.flatMap((each) => listIn(each).map((row) => ({ row, owner: any(each) })))
    }
  }
}

const indexes = new WeakMap<Job, Map<RowTable, ReadonlyMap<string, PlacedRow>>>()

/** Rows of a table by their id; made once for each state of a job. */
export function rowsById(job: Job, table: RowTable): ReadonlyMap<string, PlacedRow> {
  const tables = indexes.get(job) ?? new Map<RowTable, ReadonlyMap<string, PlacedRow>>()
  indexes.set(job, tables)
  const known = tables.get(table)
  if (known) return known
  const made = new Map(rowsOf(job, table).map((placed) => [placed.row.id, placed]))
  tables.set(table, made)
  return made
}

/** A row of any table, as it stands in the job. */
export const rowIn = (job: Job, table: RowTable, id: string): AnyRow | undefined => rowsById(job, table).get(id)?.row
