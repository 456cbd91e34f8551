/** Rows by a key; those without one are left out. */
export function groupedBy<T, K>(rows: readonly T[], keyOf: (row: T) => K | undefined): Map<K, T[]> {
  const groups = new Map<K, T[]>()
  for (const row of rows) {
    const key = keyOf(row)
    if (key === undefined) continue
    const known = groups.get(key)
    if (known) known.push(row)
    else groups.set(key, [row])
  }
  return groups
}
