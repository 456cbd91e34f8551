import type { Change } from '@calm/core/changes'
import { claspFor, hasProven, type Handshake, type Job } from '@calm/core/job'
import { termDefinition, type End, type TermId } from '@calm/core/terms'
import type { Refusal } from '@calm/core/units'
import { newId } from '../../api'
import { termChange, textOf } from './useTermEdit'

/** One handshake whose term would change. */
export interface ManyChange {
  readonly handshake: Handshake
  readonly from: string
  readonly to: string
  /** What is proven now rests on it, here or at another handshake that shares the row: its evidence falls back. */
  readonly isProven: boolean
  readonly change: Change
}

/** What changing a term of many would do. */
export type ManyPreview =
  | { readonly refusal: Refusal }
  | {
      readonly changing: readonly ManyChange[]
      /** Handshakes that have this value already. */
      readonly same: number
      /** Handshakes that have no such term, or nothing to keep it in. */
      readonly without: number
    }

/**
 * What it would do to set one term at one end of many handshakes; nothing is changed yet. A row that several of them
 * share (a line, a gateway's port) is changed once.
 */
export function previewMany(
  job: Job,
  handshakes: readonly Handshake[],
  id: TermId,
  end: End,
  text: string,
  newRowId: () => string = newId,
): ManyPreview {
  const read = termDefinition(id).parse({ text, origin: '' }, { terms: {}, end })
  if (!read.ok) return { refusal: read.refusal }
  const changeOf = (handshake: Handshake) =>
    termChange(job, handshake, id, end, { text, notation: null, origin: 'set for many' }, newRowId)
  // A row may be shared with a handshake that is not shown: what is proven there falls back as well.
  const restsOnIt = (handshake: Handshake) => hasProven(job, handshake, `${id}.${end}`)
  const proven = new Set(job.handshakes.filter(restsOnIt).flatMap((each) => rowOf(changeOf(each))))
  const changing: ManyChange[] = []
  let [same, without] = [0, 0]
  for (const handshake of handshakes) {
    const row = claspFor(job, handshake).rows.find((each) => each.id === id)
    const from = row ? textOf(row.ends[end]) : ''
    const change = row && changeOf(handshake)
    if (!change) without += 1
    else if (from === text) same += 1
    else
      changing.push({
        handshake,
        from,
        to: text,
        isProven: restsOnIt(handshake) || rowOf(change).some((each) => proven.has(each)),
        change,
      })
  }
  return { changing, same, without }
}

/** The row that a change is about, where it is there already. */
const rowOf = (change: Change | undefined): readonly string[] =>
  change === undefined || change.op === 'add' ? [] : [`${change.table} ${change.id}`]

/** The changes of a preview, each row once. @param withProven whether those that are proven change too */
export function changesOf(changing: readonly ManyChange[], withProven: boolean): readonly Change[] {
  const rows = new Map<string, Change>()
  for (const { change, isProven } of changing)
    if (withProven || !isProven) rows.set(`${change.table} ${change.id}`, change)
  return [...rows.values()]
}
