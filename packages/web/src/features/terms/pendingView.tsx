import { pendingTermsOf, type Job, type PendingDevice, type PendingTerm } from '@calm/core/job'
import { useMemo } from 'react'
import { Link } from 'react-router'
import { Button, Glyph, Problems } from '../../ui'
import { standingSays } from './standingMark'
import { useStandings } from './useStandings'

/** What is entered and not in force, or found otherwise, by device, with what brings it into force. */
export function PendingView({ job }: { job: Job }) {
  const pending = useMemo(() => pendingTermsOf(job), [job])
  const standings = useStandings(job)
  if (pending.length === 0)
    return (
      <p className="px-5 py-4">
        Nothing waits. What is entered at an end and not in force yet stands here, by device; so does what was found
        otherwise.
      </p>
    )
  return (
    <div className="min-h-0 flex-1 overflow-auto">
      <ul className="px-5">
        {pending.map((each) => (
          <DevicePending
            key={each.device.id}
            job={job}
            pending={each}
            onInForce={() => standings.broughtIntoForce(each.device.tag, each.terms)}
            onBack={() => standings.seenBack(each.device.tag, each.returns)}
          />
        ))}
      </ul>
      <div className="px-5">
        <Problems reason={standings.problem} />
      </div>
    </div>
  )
}

interface PendingProps {
  readonly job: Job
  readonly pending: PendingDevice
  readonly onInForce: () => void
  readonly onBack: () => void
}

function DevicePending({ job, pending, onInForce, onBack }: PendingProps) {
  const { device, terms, returns, say, seconds } = pending
  const waits = terms.filter(({ state }) => state === 'pending').length
  return (
    <li
      className="grid grid-cols-[200px_1fr_auto] gap-x-5 gap-y-1 border-b border-rule py-3 max-phone:grid-cols-1"
      data-pending={device.tag}
    >
      <div>
        <b className="text-head font-heavy">{device.tag}</b>
        <span className="block text-note text-ink-soft">{device.what}</span>
      </div>
      <ul className="grid gap-1">
        {terms.map((term) => (
          <PendingLine key={`${term.handshake.id} ${term.row.id} ${term.end}`} job={job} term={term} />
        ))}
        {returns.map(({ row, during, after }) => (
          <li key={row.id} className="flex flex-wrap items-center gap-x-2 text-row" data-return={row.id}>
            <Glyph state="waiting" size={14} />
            {row.name} <span className="font-typed">{after}</span>
            <span className="text-note text-ink-soft">
              it is set in {during}; nobody has seen it back since it was set
            </span>
          </li>
        ))}
      </ul>
      <div className="grid max-w-72 justify-items-start gap-2 text-note">
        {waits > 0 && (
          <div>
            <p className="mb-2">
              {say}
              {seconds > 0 && ` It takes about ${seconds} s.`}
            </p>
            <Button look="act" onClick={onInForce}>
              Seen in force: {waits} term{waits === 1 ? '' : 's'}
            </Button>
          </div>
        )}
        {returns.length > 0 && (
          <Button onClick={onBack}>Seen back in {returns.map(({ after }) => after).join(', ')}</Button>
        )}
      </div>
    </li>
  )
}

function PendingLine({ job, term: { handshake, row, state, planned, there } }: { job: Job; term: PendingTerm }) {
  return (
    <li className="flex flex-wrap items-center gap-x-2 text-row">
      <Glyph state={standingSays[state].mark} size={14} />
      <Link to={`/jobs/${job.id}/terms/${handshake.id}?view=columns`}>{row.name}</Link>
      <span className="font-typed">{planned}</span>
      <span className="text-note text-ink-soft">
        {state === 'pending'
          ? 'entered, not in force yet'
          : `${state === 'to-enter' ? 'found with' : 'at work or entered is'} ${there}`}
      </span>
    </li>
  )
}
