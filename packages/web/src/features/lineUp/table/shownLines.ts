import { parseIpv4 } from '@calm/core/address'
import type { Job } from '@calm/core/job'
import { deviceColumn, deviceColumns, type DeviceColumnId } from '@calm/core/lineUp'
import type { DeviceLine } from './lines'

export interface Sorting {
  readonly column: DeviceColumnId
  readonly down: boolean
}

/** Which lines are shown, and in which order. Sorted, a device does not stand below what it hangs behind. */
interface Showing {
  /** Only lines in this state. */
  readonly state: string | undefined
  /** Only lines in which each of these words stands somewhere. */
  readonly text: string
  readonly sorting: Sorting | undefined
}

export function shownLines(
  lines: readonly DeviceLine[],
  job: Job,
  { state, text, sorting }: Showing,
): readonly DeviceLine[] {
  const words = text
    .toLowerCase()
    .split(/\s+/)
    .filter((word) => word !== '')
  const kept = lines.filter(
    (line) => (!state || line.state === state) && (words.length === 0 || holds(line, job, words)),
  )
  if (!sorting) return kept
  const column = deviceColumn(sorting.column)
  const keyed = kept.map((line) => ({ line, key: column.text(line.device, job) }))
  // Blanks stand last in both directions.
  const turn = (a: string, b: string) => (sorting.down && a !== '' && b !== '' ? -1 : 1)
  keyed.sort((a, b) => compareCells(a.key, b.key) * turn(a.key, b.key))
  return keyed.map(({ line }) => ({ ...line, behind: undefined, lastBehind: false }))
}

function holds(line: DeviceLine, job: Job, words: readonly string[]): boolean {
  const text = [line.say, ...deviceColumns.map((column) => column.text(line.device, job))].join('\n').toLowerCase()
  return words.every((word) => text.includes(word))
}

const collator = new Intl.Collator(undefined, { numeric: true, sensitivity: 'base' })

/** Addresses by their number, other texts with the numbers in them counted as numbers; blanks last. */
export function compareCells(a: string, b: string): number {
  if (a === '' || b === '') return a === b ? 0 : a === '' ? 1 : -1
  const [x, y] = [parseIpv4(a), parseIpv4(b)]
  return x.ok && y.ok ? x.value - y.value : collator.compare(a, b)
}

/** @example sortingOf('address.down') // { column: 'address', down: true } */
export function sortingOf(text: string | null): Sorting | undefined {
  const [name, direction] = (text ?? '').split('.')
  const column = deviceColumns.find((each) => each.id === name)
  return column && { column: column.id, down: direction === 'down' }
}
