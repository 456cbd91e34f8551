import type { Change } from '@calm/core/changes'
import { claspFor, ladderFor, type Handshake, type Job } from '@calm/core/job'
import { termDefinition, type End, type TermId } from '@calm/core/terms'
import type { Refusal } from '@calm/core/units'
import { newId } from '../../api'
import { termChange, textOf } from './useTermEdit'

/** One handshake whose term would change. */
export interface ManyChange {
  readonly handshake: Handshake
  readonly from: string
  readonly to: string
  /** A rung rests on it that is proven now: its evidence falls back. */
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
  const read = termDefinition(id).parse({ text, origin: '' })
  if (!read.ok) return { refusal: read.refusal }
  const changing: ManyChange[] = []
  let [same, without] = [0, 0]
  for (const handshake of handshakes) {
    const row = claspFor(job, handshake).rows.find((each) => each.id === id)
    const from = row ? textOf(row.ends[end]) : ''
    const change =
      row && termChange(job, handshake, id, end, { text, notation: null, origin: 'set for many' }, newRowId)
    if (!change) without += 1
    else if (from === text) same += 1
    else changing.push({ handshake, from, to: text, isProven: hasProven(job, handshake), change })
  }
  return { changing, same, without }
}

const hasProven = (job: Job, handshake: Handshake): boolean =>
  ladderFor(job, handshake).rungs.some(
    ({ rung, state }) => state === 'proven' && (rung === 'agreed' || rung === 'reading' || rung === 'writing'),
  )

/** The changes of a preview, each row once. @param withProven whether those that are proven change too */
export function changesOf(changing: readonly ManyChange[], withProven: boolean): readonly Change[] {
  const rows = new Map<string, Change>()
  for (const { change, isProven } of changing)
    if (withProven || !isProven) rows.set(`${change.table} ${change.id}`, change)
  return [...rows.values()]
}
