import { termCatalogue, type ClaspRow, type EndReading, type TermId } from '../terms'
import { deviceOf } from './deviceOf'
import type { Handshake, Job } from './model'
import { claspFor } from './standing'

/** One term of one handshake, as it stands among the others. */
export interface MatrixCell {
  /** `none`: there is no such term between these two ends. */
  readonly state: ClaspRow['state'] | 'none'
  readonly controller: string
  readonly device: string
  /** What most devices of the same kind have, where this one has something else. */
  readonly mostHave: string | undefined
}

export interface MatrixRow {
  readonly handshake: Handshake
  readonly device: string
  readonly kind: string
  /** In the order of the columns. */
  readonly cells: readonly MatrixCell[]
}

/** Handshakes by terms. */
export interface TermMatrix {
  readonly columns: readonly { readonly id: TermId; readonly name: string }[]
  readonly rows: readonly MatrixRow[]
}

/** Fewer say nothing of what is usual. */
const LEAST_TO_COMPARE = 3

/** What no two devices share by its nature: nobody stands out by it, and it is never set for many. */
export const individualTerms: readonly TermId[] = ['address', 'unit-id']

/** Nobody stands out by these: where a value lies differs from point to point too. */
const NO_MEASURE: readonly TermId[] = [...individualTerms, 'first-register']

/**
 * All handshakes of a job held against each other, term by term. A device stands out where more than half of at least
 * three devices of its kind have one value and it has another; without such a majority nobody does.
 */
export function termMatrixOf(job: Job): TermMatrix {
  const rows = job.handshakes.map((handshake) => {
    const device = deviceOf(job, handshake.deviceId)
    const byId = new Map(claspFor(job, handshake).rows.map((row) => [row.id, row]))
    return { handshake, device: device?.tag ?? '', kind: device?.kind ?? '', byId }
  })
  const columns = termCatalogue
    .filter(({ id }) => rows.some(({ byId }) => byId.has(id)))
    .map(({ id, name }) => ({ id, name }))
  const usual = columns.map(({ id }) =>
    NO_MEASURE.includes(id)
      ? new Map<string, string>()
      : mostOf(rows.map(({ kind, byId }) => ({ kind, text: said(byId.get(id)?.ends.device) }))),
  )
  return {
    columns,
    rows: rows.map(({ byId, ...row }) => ({
      ...row,
      cells: columns.map(({ id }, column): MatrixCell => {
        const term = byId.get(id)
        const device = said(term?.ends.device)
        const most = usual[column]?.get(row.kind)
        return {
          state: term?.state ?? 'none',
          controller: said(term?.ends.controller),
          device,
          mostHave: device !== '' && most !== undefined && most !== device ? most : undefined,
        }
      }),
    })),
  }
}

/** What an end says, as it is read; as it was typed where it cannot be. */
function said(reading: EndReading | undefined): string {
  if (reading === undefined || reading.state === 'blank') return ''
  return reading.state === 'read' ? reading.shown : reading.entry.text
}

/** The value that more than half of a kind have, by kind. */
function mostOf(values: readonly { readonly kind: string; readonly text: string }[]): ReadonlyMap<string, string> {
  const counts = new Map<string, Map<string, number>>()
  for (const { kind, text } of values) {
    if (text === '') continue
    const ofKind = counts.get(kind) ?? new Map<string, number>()
    counts.set(kind, ofKind.set(text, (ofKind.get(text) ?? 0) + 1))
  }
  return new Map(
    [...counts].flatMap(([kind, ofKind]) => {
      const all = [...ofKind.values()].reduce((sum, count) => sum + count, 0)
      const most = [...ofKind].find(([, count]) => all >= LEAST_TO_COMPARE && 2 * count > all)
      return most ? [[kind, most[0]] as const] : []
    }),
  )
}
