import type { Change } from '@calm/core/changes'

/** Versions of rows from which changes of this page have led on, by row. */
const ledOn = new Map<string, Set<number>>()

/** The version to which this page has brought a row that was looked at in an earlier one. */
function latest(id: string, version: number): number {
  const from = ledOn.get(id)
  let now = version
  while (from?.has(now)) now += 1
  return now
}

/**
 * Changes as they are to be sent after those that waited before them. A row was looked at before a change of this page
 * had come back: what is typed next is meant for what comes of it. Where somebody else has changed the row in between,
 * the versions do not follow one another, and the server refuses as ever.
 */
export function onTop(changes: readonly Change[]): readonly Change[] {
  /** By how much the first change of each row was brought up; the next ones of the row go with it. */
  const up = new Map<string, number>()
  return changes.map((change) => {
    if (change.op !== 'set' && change.op !== 'remove') return change
    const by = up.get(change.id) ?? latest(change.id, change.version) - change.version
    up.set(change.id, by)
    return by === 0 ? change : { ...change, version: change.version + by }
  })
}

/** The server has taken these: each has led its row on by one version. */
export function ledOnBy(changes: readonly Change[]): void {
  for (const change of changes) {
    if (change.op !== 'set' && change.op !== 'remove') continue
    const from = ledOn.get(change.id) ?? new Set<number>()
    ledOn.set(change.id, from.add(change.version))
  }
}
