import { newRow } from '@calm/contract'
import { inNoHandshake, NO_HANDSHAKE, type Readiness } from '@calm/core/handOver'
import type { Job } from '@calm/core/job'
import { useState } from 'react'
import { Link } from 'react-router'
import { newId } from '../../api'
import { useEdit } from '../../edit'
import { againstPart, useSchemaForm } from '../../forms'
import { Button, Field, Glyph, Problems } from '../../ui'

/** Where each kind of open point is worked on. */
const STAGES: Readonly<Record<Readiness['open'][number]['kind'], string | undefined>> = {
  ledger: undefined,
  'no-handshake-yet': 'line-up',
  'at-odds': 'proof',
  rung: undefined,
  device: 'line-up',
  'in-no-handshake': undefined,
  wait: 'first-contact',
  unexpected: 'first-contact',
  run: 'first-contact',
  question: 'line-up?view=asked',
}

interface OpenPointsProps extends Pick<Readiness, 'open' | 'known'> {
  readonly job: Job
}

/**
 * Everything that keeps hand-over shut, with the stage where it is worked on; then what was decided with a reason. Who
 * lacks which rung stands in the table below.
 */
export function OpenPoints({ job, open, known }: OpenPointsProps) {
  const rungCount = open.filter(({ kind }) => kind === 'rung').length
  return (
    <>
      {open.length > 0 && (
        <ul aria-label="Open points">
          {open
            .filter(({ kind }) => kind !== 'rung')
            .map(({ kind, say }) => (
              <li className="grid grid-cols-[16px_1fr_auto] items-start gap-2 py-1.25 text-row" key={say}>
                <Glyph state={kind === 'at-odds' || kind === 'device' ? 'at-odds' : 'not-started'} size={16} />
                <span>{say}</span>
                {STAGES[kind] !== undefined && <Link to={`/jobs/${job.id}/${STAGES[kind]}`}>Go there</Link>}
                {kind === 'in-no-handshake' && <LetStand job={job} />}
              </li>
            ))}
          {rungCount > 0 && (
            <li className="grid grid-cols-[16px_1fr] items-start gap-2 py-1.25 text-row">
              <Glyph state="in-hand" size={16} />
              {rungCount} {rungCount === 1 ? 'rung is' : 'rungs are'} not proven everywhere: the table names who lacks
              what.
            </li>
          )}
        </ul>
      )}
      {known.length > 0 && (
        <details>
          <summary className="cursor-pointer text-row">{known.length} parked or let stand, with a reason</summary>
          <ul>
            {known.map(({ say }) => (
              <li className="py-1 text-row text-ink-soft" key={say}>
                {say}
              </li>
            ))}
          </ul>
        </details>
      )}
    </>
  )
}

const checkReason = againstPart<{ readonly reason: string }>(newRow('acceptance'))

/** Devices that talk to nobody (a switch, a supply) are let stand with one reason, which goes into the record. */
function LetStand({ job }: { job: Job }) {
  const [asking, setAsking] = useState(false)
  const edit = useEdit(job)
  const form = useSchemaForm({
    start: { reason: '' },
    check: checkReason,
    send: ({ reason }) =>
      edit.change(
        'Devices without a handshake let stand.',
        inNoHandshake(job).map(({ id, tag }) => ({
          op: 'add',
          table: 'acceptance',
          id: newId(),
          fields: { rule: NO_HANDSHAKE, subjectId: id, found: tag, reason },
        })),
      ),
  })
  if (!asking)
    return (
      <Button look="plain" onClick={() => setAsking(true)}>
        Let them stand
      </Button>
    )
  return (
    <form className="col-[2/-1] grid justify-items-start gap-1.5" onSubmit={form.onSubmit} noValidate>
      <Field
        className="w-full max-w-105"
        label="Why they need no handshake"
        autoFocus
        {...form.bind('reason')}
        onKeyDown={(event) => event.key === 'Escape' && setAsking(false)}
      />
      <Problems reason={form.trouble ?? edit.problem} />
      <Button type="submit">Let them stand</Button>
    </form>
  )
}
