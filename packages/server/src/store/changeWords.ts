import type { Change, PlacedRow } from '@calm/core/changes'
import { rowKinds, type RowTable } from '@calm/core/job'

/** How the log calls a row; one that lies in another with that one before it. */
export function calledInLog(table: RowTable, placed: PlacedRow | undefined): string {
  const kind = rowKinds[table]
  if (!placed) return `The ${kind.name}`
  const own = kind.say(placed.row)
  if (!placed.owner) return own
  return kind.owner === 'device' ? `Device ${placed.owner.tag}, ${own}` : `${placed.owner.name}, ${own}`
}

const shown = (value: unknown): string => {
  if (value === null || value === '' || value === undefined) return 'blank'
  return typeof value === 'object' ? JSON.stringify(value) : String(value)
}

/** What changed, as `field: before -> after`, each field by its name. */
export function differencesInLog(
  table: RowTable,
  before: Readonly<Record<string, unknown>>,
  change: Readonly<Record<string, unknown>>,
): string {
  return Object.entries(change)
    .filter(([field, value]) => shown(before[field]) !== shown(value))
    .map(([field, value]) => {
      const name = rowKinds[table].fields[field]?.name ?? field
      return `${name}: ${shown(before[field])} -> ${shown(value)}`
    })
    .join(', ')
}

/** @example '12 changes: 5 devices added, 7 ports changed' */
export function summaryOf(changes: readonly Change[]): string {
  const words = { set: 'changed', add: 'added', remove: 'removed', restore: 'brought back' } as const
  const counts = new Map<string, number>()
  for (const { op, table } of changes) {
    const key = `${table}s ${words[op]}`
    counts.set(key, (counts.get(key) ?? 0) + 1)
  }
  return `${changes.length} changes: ${[...counts].map(([what, count]) => `${count} ${what}`).join(', ')}`
}
