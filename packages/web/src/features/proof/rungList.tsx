import type { NewDecision } from '@calm/contract'
import type { How } from '@calm/core/evidence'
import type { Handshake, Job } from '@calm/core/job'
import { rungFacts, rungStateWords, type Ladder, type RungOnLadder } from '@calm/core/ladder'
import { format } from 'date-fns/format'
import { useState } from 'react'
import { api } from '@calm/contract/api'
import { bodies } from '@calm/contract/bodies'
import { useAct } from '../../api'
import { againstPart, useSchemaForm } from '../../forms'
import { Caution, Choice, Field, Glyph, Powers, Problems, Button, formActions } from '../../ui'

/** Every rung with what it rests on, and the way to give it evidence. */
export function RungList({ job, handshake, ladder }: { job: Job; handshake: Handshake; ladder: Ladder }) {
  return (
    <section aria-label="Ladder">
      <h3>
        Ladder: {ladder.proven} of {ladder.needed} proven
      </h3>
      <ol className="mt-2">
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
    <li
      className="grid min-h-11 grid-cols-[22px_108px_minmax(0,1fr)_auto] items-center gap-2.5 border-t border-rule py-1 text-row first:border-t-0 max-tablet:grid-cols-[22px_90px_minmax(0,1fr)]"
      data-rung={rung.rung}
      data-state={rung.state}
    >
      <Glyph state={rung.state} size={17} />
      <span>
        <b>{rung.name}</b>
        <span className="block note">{rungStateWords[rung.state]}</span>
      </span>
      <span className="leading-snug">
        {rung.because !== '' ? <Powers text={rung.because} /> : <span className="text-ink-soft">{rung.missing}</span>}
        {evidence && rung.changes.length === 0 && (
          <em className="block text-note text-ink-soft">
            {evidence.who}, {format(evidence.at, 'd MMM HH:mm')}
          </em>
        )}
        {rung.because !== '' && rung.missing !== '' && (
          <em className="block text-note text-ink-soft">{rung.missing}</em>
        )}
        {look.error && <Problems reason={look.error} />}
      </span>
      <span className="flex gap-1">
        {rung.rung === 'reading' ? null : own ? (
          <Button
            disabled={look.isPending || (rung.rung === 'agreed' && rung.state === 'at-odds')}
            onClick={() => look.mutate({ params: { id: handshake.id } })}
          >
            {own}
          </Button>
        ) : (
          <Button
            aria-expanded={open === 'evidence'}
            onClick={() => setOpen(open === 'evidence' ? undefined : 'evidence')}
          >
            I saw
          </Button>
        )}
        <Button
          look="plain"
          aria-label={`Park ${rung.name} or say it does not apply`}
          aria-expanded={open === 'decide'}
          onClick={() => setOpen(open === 'decide' ? undefined : 'decide')}
        >
          Park
        </Button>
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

type EvidenceValues = { readonly value: string; readonly how: Exclude<How, 'read-live'> }
const checkEvidence = againstPart<EvidenceValues>(bodies.addEvidence)
const checkDecision = againstPart<Pick<NewDecision, 'state' | 'reason'>>(bodies.decide)

const rungForm = 'col-[3/-1] grid gap-2 pt-1 pb-2.5'

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
  const send = (verdict: 'proven' | 'at-odds', { value, how }: EvidenceValues) =>
    change.mutateAsync({ params: { id: handshake.id }, body: { rung: rung.rung, verdict, how, value } }).then(onClose)
  const start: EvidenceValues = { value: '', how: 'seen' }
  const form = useSchemaForm({ start, check: checkEvidence, send: (values) => send('proven', values) })
  const caution = cautions[rung.rung]
  const isNot = async () => {
    // Checked and told as the form would.
    if (checkEvidence(form.values).length > 0) return form.sendNow()
    await send('at-odds', form.values).catch(() => undefined)
  }
  return (
    <form className={rungForm} onSubmit={form.onSubmit} noValidate>
      {caution && <Caution>{caution}</Caution>}
      <Field label={`What was seen: ${rungFacts(rung.rung).proof}`} autoFocus {...form.bind('value')} />
      <Choice
        label="How"
        value={form.values.how}
        choices={[
          { value: 'seen', label: 'seen with the eye' },
          { value: 'measured', label: 'measured with an instrument' },
          { value: 'typed', label: 'typed from another screen' },
        ]}
        onChange={(how) => form.set({ how })}
      />
      <Problems reason={form.trouble ?? change.error} />
      <div className={formActions}>
        <Button type="submit" look="act">
          I see it
        </Button>
        <Button onClick={() => void isNot()}>I don’t</Button>
        <Button look="plain" onClick={onClose}>
          Leave it
        </Button>
      </div>
    </form>
  )
}

function DecisionForm({ job, handshake, rung, onClose }: FormProps) {
  const change = useAct(job.id, api.decide)
  const form = useSchemaForm({
    start: { state: 'parked' as NewDecision['state'], reason: '' },
    check: checkDecision,
    send: (values) =>
      change.mutateAsync({ params: { id: handshake.id }, body: { rung: rung.rung, ...values } }).then(onClose),
  })
  return (
    <form className={rungForm} onSubmit={form.onSubmit} noValidate>
      <Choice
        label="Decision"
        value={form.values.state}
        choices={[
          { value: 'parked', label: 'parked' },
          { value: 'not-apply', label: 'does not apply' },
          { value: 'waiting', label: 'waiting' },
          { value: 'none', label: 'take the decision back' },
        ]}
        onChange={(state) => form.set({ state })}
      />
      {form.values.state !== 'none' && <Field label="Reason" autoFocus {...form.bind('reason')} />}
      <Problems reason={form.trouble} />
      <div className={formActions}>
        <Button type="submit" look="act">
          Decide
        </Button>
        <Button look="plain" onClick={onClose}>
          Leave it
        </Button>
      </div>
    </form>
  )
}
