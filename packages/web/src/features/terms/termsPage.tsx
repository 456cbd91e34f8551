import { claspFor, deviceOf, ladderFor, termContextOf, type Handshake, type Job } from '@calm/core/job'
import { claspOf, otherEnd, type Clasp, type TermContext } from '@calm/core/terms'
import { useEffect, useMemo } from 'react'
import { Link, useLocation } from 'react-router'
import { api } from '@calm/contract/api'
import { useAct } from '../../api'
import { useStage } from '../../shell'
import { LadderStrip, Problems } from '../../ui'
import { BEGUN, HandshakePicker, NoHandshake, useChosenHandshake } from '../handshake'
import { ClaspView } from './claspView'
import { RemoveHandshake } from './removeHandshake'
import { openAt, useTermEdit, type TermEdit } from './useTermEdit'

/** The terms of one handshake, both ends side by side. */
export function TermsPage() {
  const { job } = useStage()
  const handshake = useChosenHandshake(job)
  if (!handshake) return <NoHandshake job={job} stage="Terms" />
  return <Terms key={handshake.id} job={job} handshake={handshake} />
}

function Terms({ job, handshake }: { job: Job; handshake: Handshake }) {
  const context = useMemo(() => termContextOf(job, handshake), [job, handshake])
  const clasp = useMemo(() => claspOf(context), [context])
  const terms = useTermEdit(job, handshake)
  const begun = useLocation().state === BEGUN
  useEffect(() => {
    // What is not known yet, after the terms that the line-up knows; a first digit is its first character.
    const open = '[data-state=unknown] [data-term-value=device]'
    const rows = [...document.querySelectorAll<HTMLElement>(open)]
    if (begun) (rows.find((each) => each.closest('[data-group=request]')) ?? rows[0])?.focus()
  }, [begun])
  const controller = deviceOf(job, handshake.controllerId)
  const device = deviceOf(job, handshake.deviceId)
  return (
    <main className="sheet tm" tabIndex={-1}>
      <header className="tm-head">
        <div>
          <h1>Terms</h1>
          <HandshakePicker
            job={job}
            stage="terms"
            chosen={handshake}
            isAtOdds={(each) => claspFor(job, each).atOdds > 0}
          />
        </div>
        <div className="end-name left">
          <span>Controller end</span>
          <b>{controller?.tag}</b>
          <span>{controller?.what}</span>
        </div>
        <p className={`knot ${clasp.atOdds > 0 ? 'odds' : ''}`} role="status">
          <b>
            {clasp.agreeing} of {clasp.total}
          </b>
          <span className="note">agree</span>
        </p>
        <div className="end-name">
          <span>Device end</span>
          <b>{device?.tag}</b>
          <span>{device?.what}</span>
        </div>
        <p className="note">
          {job.mode === 'bench'
            ? `On the bench ${controller?.tag ?? 'the controller'} runs what stands at its end.`
            : `Written down here; ${controller?.tag ?? 'the controller'} runs what is in its program.`}
        </p>
      </header>
      <ClaspView clasp={clasp} context={context} terms={terms} />
      <TakeOver clasp={clasp} context={context} terms={terms} />
      <TermsFoot job={job} handshake={handshake} agreed={clasp.agreeing === clasp.total} problem={terms.problem} />
    </main>
  )
}

/** What only one end says can stand at the other too; whether that end really runs it, its program or display shows. */
function TakeOver({ clasp, context, terms }: { clasp: Clasp; context: TermContext; terms: TermEdit }) {
  const ends = (['controller', 'device'] as const).map((end) => ({ end, rows: openAt(clasp.rows, end) }))
  if (ends.every(({ rows }) => rows.length === 0)) return null
  return (
    <div className="flex flex-wrap items-center gap-3 px-5 pb-3">
      {ends.map(({ end, rows }) => {
        const from = context.tags[otherEnd[end]]
        return (
          rows.length > 0 && (
            <button key={end} type="button" className="quiet" onClick={() => terms.takeOver(rows, end, from)}>
              Write the {rows.length} open term{rows.length === 1 ? '' : 's'} of {context.tags[end]} as {from} says
            </button>
          )
        )
      })}
      <span className="note">
        Enter edits a term, Tab goes on, = takes over what the other end says. Both ends are still to be looked at.
      </span>
    </div>
  )
}

function TermsFoot({
  job,
  handshake,
  agreed,
  problem,
}: {
  job: Job
  handshake: Handshake
  agreed: boolean
  problem: unknown
}) {
  const ladder = useMemo(() => ladderFor(job, handshake), [job, handshake])
  const confirm = useAct(job.id, api.agreed)
  const rung = ladder.rungs.find((each) => each.rung === 'agreed')
  return (
    <footer className="tm-foot">
      <LadderStrip ladder={ladder} />
      <p className="note" style={{ flex: 1 }}>
        Agreed: {rung?.because || rung?.missing}
      </p>
      <Problems reason={problem ?? confirm.error} />
      {rung?.state !== 'proven' && (
        <button
          type="button"
          className="act"
          disabled={!agreed}
          title={agreed ? '' : 'Every term has to agree first.'}
          onClick={() => confirm.mutate({ params: { id: handshake.id } })}
        >
          They are in force at both ends
        </button>
      )}
      <RemoveHandshake job={job} handshake={handshake} />
      <Link className="quiet" to={`/jobs/${job.id}/proof/${handshake.id}`}>
        On to Proof
      </Link>
    </footer>
  )
}
