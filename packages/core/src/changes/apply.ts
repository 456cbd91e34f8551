import { blanksOf, inOrder, ownerField, rowKinds, withoutLoose, type AnyRow, type Job, type RowTable } from '../job'
import type { AddChange, Change, RowFields, Stamp } from './change'

const NOBODY: Stamp = { who: '', at: 0 }

/**
 * What changes make of a job. The page shows it before the server has answered, and the server keeps it: both by this.
 * A row that is brought back is known to the database alone; whoever holds a job only in part fetches it again.
 */
export function applyChanges(job: Job, changes: readonly Change[], stamp: Stamp = NOBODY): Job {
  let now = job
  for (let k = 0; k < changes.length;) {
    const run = runFrom(changes, k)
    now = applyRun(now, run, stamp)
    k += run.length
  }
  return now
}

/**
 * Changes from a place on that can be taken together: of no row more than one change, except that one may be set
 * several times. A table of thousands would otherwise be copied thousands of times.
 */
export function runFrom(changes: readonly Change[], from: number): readonly Change[] {
  const touched = new Map<string, Change['op']>()
  const run: Change[] = []
  for (let k = from; k < changes.length; k += 1) {
    const change = changes[k]
    if (!change) break
    const key = `${change.table} ${change.id}`
    const before = touched.get(key)
    if (before !== undefined && !(before === 'set' && change.op === 'set')) break
    // What lies in a row that is added in the same run goes in with it; one that is taken away ends the run.
    if (run.length > 0 && (change.op === 'remove') !== (run[0]?.op === 'remove')) break
    touched.set(key, change.op)
    run.push(change)
  }
  return run
}

/** What one run does to one table. */
interface Work {
  readonly sets: Map<string, { fields: RowFields; times: number }>
  readonly removed: Set<string>
  /** New rows by the id of the row that holds them; '' for those of the job itself. */
  readonly adds: Map<string, AnyRow[]>
}

/** What one run makes of a job. */
export function applyRun(job: Job, run: readonly Change[], stamp: Stamp = NOBODY): Job {
  const works = new Map<RowTable, Work>()
  for (const change of run) {
    const work = works.get(change.table) ?? { sets: new Map(), removed: new Set(), adds: new Map() }
    works.set(change.table, work)
    note(work, change, stamp)
  }
  let next = job
  const own = works.get('job')?.sets.get(job.id)
  if (own) next = { ...next, ...own.fields, version: next.version + own.times }
  for (const table of ['network', 'line', 'kind', 'request', 'acceptance', 'standing'] as const) {
    const { list } = rowKinds[table]
    const rows = (next as unknown as Record<string, readonly AnyRow[]>)[list] ?? []
    next = { ...next, [list]: changed(table, rows, works.get(table), '') }
  }
  next = {
    ...next,
    devices: withLists(next.devices, 'device', ['port', 'node'], works),
    handshakes: withLists(next.handshakes, 'handshake', ['term', 'point'], works),
  }
  return run[0]?.op === 'remove' ? withoutLoose(next) : next
}

function note(work: Work, change: Change, stamp: Stamp): void {
  switch (change.op) {
    case 'set': {
      const before = work.sets.get(change.id)
      work.sets.set(change.id, {
        fields: { ...before?.fields, ...change.fields },
        times: (before?.times ?? 0) + 1,
      })
      return
    }
    case 'remove':
      work.removed.add(change.id)
      return
    case 'add': {
      const owner = ownerIdOf(change)
      const known = work.adds.get(owner)
      if (known) known.push(newRow(change, stamp))
      else work.adds.set(owner, [newRow(change, stamp)])
      return
    }
    case 'restore':
      return
  }
}

/** The row that holds a new one; '' where the job does. */
export function ownerIdOf({ table, fields }: AddChange): string {
  const name = ownerField(rowKinds[table])
  return name === undefined ? '' : String(fields[name] ?? '')
}

/** A new row as it stands in the job. */
function newRow({ table, id, fields }: AddChange, stamp: Stamp): AnyRow {
  const kind = rowKinds[table]
  const owner = ownerField(kind)
  const said = Object.fromEntries(Object.entries(fields).filter(([name]) => name !== owner))
  const lists = Object.fromEntries(kind.holds.map((list) => [list, []]))
  return { ...lists, ...blanksOf(kind.fields), ...said, ...(kind.stamped && stamp), id, version: 1 }
}

/** A list after a run: the same list where nothing of it changed. */
function changed<T extends object>(
  table: RowTable,
  rows: readonly T[],
  work: Work | undefined,
  ownerId: string,
): readonly T[] {
  if (!work) return rows
  const added = work.adds.get(ownerId) ?? []
  const touches = rows.some((row) => {
    const { id } = row as unknown as AnyRow
    return work.sets.has(id) || work.removed.has(id)
  })
  if (added.length === 0 && !touches) return rows
  const kept = (rows as unknown as readonly AnyRow[]).flatMap((row) => {
    if (work.removed.has(row.id)) return []
    const set = work.sets.get(row.id)
    return [set ? { ...row, ...set.fields, version: row.version + set.times } : row]
  })
  return inOrder(rowKinds[table], [...kept, ...added]) as unknown as readonly T[]
}

/** Devices with their ports and nodes, handshakes with their terms and points. */
function withLists<T extends { readonly id: string }>(
  rows: readonly T[],
  table: RowTable,
  inner: readonly RowTable[],
  works: ReadonlyMap<RowTable, Work>,
): readonly T[] {
  const now = changed(table, rows, works.get(table), '')
  const busy = inner.filter((each) => works.has(each))
  if (busy.length === 0) return now
  return now.map((row) => {
    let next = row
    for (const each of busy) {
      const { list } = rowKinds[each]
      const before = (row as unknown as Record<string, readonly AnyRow[]>)[list] ?? []
      const after = changed(each, before, works.get(each), row.id)
      if (after !== before) next = { ...next, [list]: after }
    }
    return next
  })
}
