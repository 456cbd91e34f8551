import type { NewDecision } from '@calm/contract'
import type { How } from '@calm/core/evidence'
import type { Handshake, Job } from '@calm/core/job'
import { rungStateWords, type Ladder, type RungOnLadder } from '@calm/core/ladder'
import { format } from 'date-fns'
import { useState } from 'react'
import { api } from '@calm/contract/api'
import { useAct } from '../../api'
import { Caution, Choice, Field, Glyph, Powers, Problems } from '../../ui'

/** Every rung with what it rests on, and the way to give it evidence. */
export function RungList({ job, handshake, ladder }: { job: Job; handshake: Handshake; ladder: Ladder }) {
  return (
    <section aria-label="Ladder">
      <h3>
        Ladder: {ladder.proven} of {ladder.needed} proven
      </h3>
      <ol className="rungs mt-2">
        {ladder.rungs.map((rung) => (
          <RungLine key={rung.rung} job={job} handshake={handshake} rung={rung} />
        ))}
      </ol>
    </section>
  )
}

/** Rungs that the server sees for itself; the others are a person's word. */
const SERVER_SEES: Readonly<Record<string, string>> = { reached: 'Reach it now', agreed: 'Terms are in force' }

function RungLine({ job, handshake, rung }: { job: Job; handshake: Handshake; rung: RungOnLadder }) {
  const [open, setOpen] = useState<'evidence' | 'decide' | undefined>(undefined)
  const reach = useAct(job.id, api.reach)
  const agree = useAct(job.id, api.agreed)
  const own = SERVER_SEES[rung.rung]
  const look = rung.rung === 'reached' ? reach : agree
  const { evidence } = rung
  return (
    <li data-rung={rung.rung} data-state={rung.state}>
      <Glyph state={rung.state} size={17} />
      <span>
        <b>{rung.name}</b>
        <span className="note" style={{ display: 'block' }}>
          {rungStateWords[rung.state]}
        </span>
      </span>
      <span className="because">
        {rung.because !== '' ? <Powers text={rung.because} /> : <span className="soft">{rung.missing}</span>}
        {evidence && rung.changes.length === 0 && (
          <em>
            {evidence.who}, {format(evidence.at, 'd MMM HH:mm')}
          </em>
        )}
        {rung.because !== '' && rung.missing !== '' && <em>{rung.missing}</em>}
        {look.error && <Problems reason={look.error} />}
      </span>
      <span className="flex gap-1">
        {rung.rung === 'reading' ? null : own ? (
          <button
            type="button"
            className="quiet"
            disabled={look.isPending || (rung.rung === 'agreed' && rung.state === 'at-odds')}
            onClick={() => look.mutate({ params: { id: handshake.id } })}
          >
            {own}
          </button>
        ) : (
          <button
            type="button"
            className="quiet"
            aria-expanded={open === 'evidence'}
            onClick={() => setOpen(open === 'evidence' ? undefined : 'evidence')}
          >
            I saw
          </button>
        )}
        <button
          type="button"
          className="plain"
          aria-label={`Park ${rung.name} or say it does not apply`}
          aria-expanded={open === 'decide'}
          onClick={() => setOpen(open === 'decide' ? undefined : 'decide')}
        >
          Park
        </button>
      </span>
      {open === 'evidence' && (
        <EvidenceForm job={job} handshake={handshake} rung={rung} onClose={() => setOpen(undefined)} />
      )}
      {open === 'decide' && (
        <DecisionForm job={job} handshake={handshake} rung={rung} onClose={() => setOpen(undefined)} />
      )}
    </li>
  )
}

interface FormProps {
  readonly job: Job
  readonly handshake: Handshake
  readonly rung: RungOnLadder
  readonly onClose: () => void
}

const cautions: Readonly<Record<string, string>> = {
  safe: 'Isolate, lock and prove dead before wiring; drives and inverters keep their charge for minutes. Local codes, site rules and the manual come first.',
  powered:
    'What gets power can start, move or let air in. Clear the area, and keep your lock on until the step is done.',
  writing:
    'A written output can start a motor, open a valve or drop a load. Clear the area and isolate the energy first.',
  survives: 'Pulling a plug or restarting can stop what runs, or start it again. Tell those who work on it.',
}

function EvidenceForm({ job, handshake, rung, onClose }: FormProps) {
  const change = useAct(job.id, api.addEvidence)
  const [value, setValue] = useState('')
  const [how, setHow] = useState<How>('seen')
  const send = (verdict: 'proven' | 'at-odds') =>
    change.mutate(
      { params: { id: handshake.id }, body: { rung: rung.rung, verdict, how, value } },
      { onSuccess: onClose },
    )
  const caution = cautions[rung.rung]
  return (
    <form
      className="rung-form"
      onSubmit={(event) => {
        event.preventDefault()
        send('proven')
      }}
    >
      {caution && <Caution>{caution}</Caution>}
      <Field label={`What was seen: ${rung.missing || rung.because}`} autoFocus value={value} onChange={setValue} />
      <Choice
        label="How"
        value={how}
        choices={[
          { value: 'seen', label: 'seen with the eye' },
          { value: 'measured', label: 'measured with an instrument' },
          { value: 'typed', label: 'typed from another screen' },
        ]}
        onChange={(next) => setHow(next as How)}
      />
      <Problems reason={change.error} />
      <div className="form-actions">
        <button type="submit" className="act">
          I see it
        </button>
        <button type="button" className="quiet" onClick={() => send('at-odds')}>
          I don’t
        </button>
        <button type="button" className="plain" onClick={onClose}>
          Leave it
        </button>
      </div>
    </form>
  )
}

function DecisionForm({ job, handshake, rung, onClose }: FormProps) {
  const change = useAct(job.id, api.decide)
  const [state, setState] = useState<NewDecision['state']>('parked')
  const [reason, setReason] = useState('')
  return (
    <form
      className="rung-form"
      onSubmit={(event) => {
        event.preventDefault()
        change.mutate(
          { params: { id: handshake.id }, body: { rung: rung.rung, state, reason } },
          { onSuccess: onClose },
        )
      }}
    >
      <Choice
        label="Decision"
        value={state}
        choices={[
          { value: 'parked', label: 'parked' },
          { value: 'not-apply', label: 'does not apply' },
          { value: 'waiting', label: 'waiting' },
          { value: 'none', label: 'take the decision back' },
        ]}
        onChange={(next) => setState(next as NewDecision['state'])}
      />
      {state !== 'none' && <Field label="Reason" autoFocus value={reason} onChange={setReason} />}
      <Problems reason={change.error} />
      <div className="form-actions">
        <button type="submit" className="act">
          Decide
        </button>
        <button type="button" className="plain" onClick={onClose}>
          Leave it
        </button>
      </div>
    </form>
  )
}
