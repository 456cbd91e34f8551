import type { How } from '../evidence'
import type { Change } from '../changes'
import type { ClaspRow, End, TermEntry } from '../terms'
import { holderOf } from './termStandings'
import type { Handshake, Job } from './model'
import type { TermStanding } from './standingWords'

/** What was seen of one term at one end. */
export interface Said {
  readonly row: Pick<ClaspRow, 'id'>
  readonly end: End
  readonly standing: TermStanding
  readonly entry: Pick<TermEntry, 'text' | 'notation'>
  readonly how: How
  /** Where it was seen, for example `its display`. */
  readonly origin: string
}

/** What was seen, as a row that is added: nothing that was said before is changed. */
export const sayStanding = (job: Job, handshake: Handshake, said: Said, newId: () => string): Change => ({
  op: 'add',
  table: 'standing',
  id: newId(),
  fields: {
    subjectId: holderOf(job, handshake, said.row.id, said.end),
    termId: said.row.id,
    end: said.end,
    standing: said.standing,
    text: said.entry.text.trim(),
    notation: said.entry.notation ?? null,
    how: said.how,
    origin: said.origin,
  },
})

/**
 * One standing said of everything that is planned at an end, as it is planned; what has that standing as planned
 * already, and what follows by itself, is left alone.
 */
export function sayAllAsPlanned(
  job: Job,
  handshake: Handshake,
  rows: readonly ClaspRow[],
  end: End,
  standing: TermStanding,
  hasIt: (row: ClaspRow) => boolean,
  newId: () => string,
): readonly Change[] {
  return rows.flatMap((row) => {
    const reading = row.ends[end]
    if (reading.state !== 'read' || reading.derived || hasIt(row)) return []
    const said: Said = { row, end, standing, entry: reading.entry, how: 'seen', origin: '' }
    return [sayStanding(job, handshake, said, newId)]
  })
}
