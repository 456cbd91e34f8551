import type { Change } from '@calm/core/changes'
import {
  claspFor,
  rowsAtDefault,
  sayAllAsPlanned,
  sayStanding,
  standingFor,
  standingWords,
  type Handshake,
  type Job,
  type ModeReturn,
  type PendingTerm,
  type TermStanding,
} from '@calm/core/job'
import type { ClaspRow, End, TermEntry } from '@calm/core/terms'
import { newId } from '../../api'
import { useEdit } from '../../edit'

/** What was found, entered and seen in force, as it is said on the page: at once on the screen, and with its way back. */
export function useStandings(job: Job) {
  const edits = useEdit(job)
  /** One value at one end, as it was seen. */
  const say = (
    handshake: Handshake,
    row: ClaspRow,
    end: End,
    standing: TermStanding,
    entry: Pick<TermEntry, 'text' | 'notation'>,
  ) => {
    const said = { row, end, standing, entry, how: 'seen', origin: '' } as const
    return edits.change(`${row.name} ${standingWords[standing]}.`, [sayStanding(edits.now(), handshake, said, newId)])
  }
  /** Everything at an end of some handshakes as it is planned; what several of them share is said once. */
  const sayAll = (handshakes: readonly Handshake[], end: End, standing: TermStanding) => {
    const now = edits.now()
    const rows = new Map<string, Change>()
    for (const handshake of handshakes) {
      const standings = standingFor(now, handshake)
      const hasIt = (row: ClaspRow) => {
        const each = standings.get(row.id)?.[end]
        return each?.state === 'in-force' || (standing === 'entered' && each?.state === 'pending')
      }
      for (const change of sayAllAsPlanned(now, handshake, claspFor(now, handshake).rows, end, standing, hasIt, newId))
        rows.set(whatIsSaid(change), change)
    }
    const changes = [...rows.values()]
    edits.attempt(edits.change(`${changes.length} terms ${standingWords[standing]} as planned.`, changes))
  }
  /** What stands at the device as it comes out of the box, and is planned so: nobody has to enter it. */
  const leftAtDefault = (handshakes: readonly Handshake[]) => {
    const now = edits.now()
    const said = new Map<string, Change>()
    for (const handshake of handshakes)
      for (const change of leftAtDefaultOf(now, handshake)) said.set(whatIsSaid(change), change)
    const changes = [...said.values()]
    edits.attempt(edits.change(`${changes.length} terms left at default.`, changes))
  }
  const leftAtDefaultOf = (now: Job, handshake: Handshake): readonly Change[] =>
    openDefaultsOf(now, handshake).flatMap((row) => {
      const { device: reading } = row.ends
      if (reading.state !== 'read') return []
      const said = {
        row,
        end: 'device',
        standing: 'in-force',
        entry: reading.entry,
        how: 'seen',
        origin: 'left at default',
      } as const
      return [sayStanding(now, handshake, said, newId)]
    })
  /** A device has restarted, or was loaded: what was entered as planned is at work. */
  const broughtIntoForce = (tag: string, terms: readonly PendingTerm[]) => {
    const changes = terms
      .filter(({ state }) => state === 'pending')
      .map(({ handshake, row, end, planned }) =>
        sayStanding(
          edits.now(),
          handshake,
          { row, end, standing: 'in-force', entry: { text: planned }, how: 'seen', origin: '' },
          newId,
        ),
      )
    edits.attempt(edits.change(`${changes.length} terms of ${tag} in force.`, changes))
  }
  /** A device was brought back from the mode that it was set in. */
  const seenBack = (tag: string, returns: readonly ModeReturn[]) => {
    const changes = returns.map(({ handshake, row, after }) =>
      sayStanding(
        edits.now(),
        handshake,
        {
          row,
          end: 'device',
          standing: 'in-force',
          entry: { text: after },
          how: 'seen',
          origin: 'back after it was set',
        },
        newId,
      ),
    )
    edits.attempt(edits.change(`${tag} seen back in ${returns.map(({ after }) => after).join(', ')}.`, changes))
  }
  return { say, sayAll, leftAtDefault, broughtIntoForce, seenBack, attempt: edits.attempt, problem: edits.problem }
}

/** Terms that a device has as its kind comes out of the box, and that nobody has seen in force yet. */
export function openDefaultsOf(job: Job, handshake: Handshake): readonly ClaspRow[] {
  const standings = standingFor(job, handshake)
  return rowsAtDefault(job, handshake, claspFor(job, handshake)).filter(
    ({ id }) => standings.get(id)?.device.state !== 'in-force',
  )
}

/** What a change says of which row: said by two handshakes it is one thing. */
function whatIsSaid(change: Change): string {
  if (change.op !== 'add') return change.id
  const { subjectId, termId, end, text } = change.fields
  return [subjectId, termId, end, text].join(' ')
}

export type Standings = ReturnType<typeof useStandings>
