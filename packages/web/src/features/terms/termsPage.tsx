import { claspFor, deviceOf, ladderFor, termContextOf, type Handshake, type Job } from '@calm/core/job'
import { claspOf } from '@calm/core/terms'
import { useMemo } from 'react'
import { Link } from 'react-router'
import { api } from '@calm/contract/api'
import { useAct } from '../../api'
import { useStage } from '../../shell'
import { LadderStrip, Problems } from '../../ui'
import { HandshakePicker, NoHandshake, useChosenHandshake } from '../handshake'
import { ClaspView } from './claspView'
import { RemoveHandshake } from './removeHandshake'
import { useTermEdit } from './useTermEdit'

/** The terms of one handshake, both ends side by side. */
export function TermsPage() {
  const { job } = useStage()
  const handshake = useChosenHandshake(job)
  if (!handshake) return <NoHandshake jobId={job.id} stage="Terms" />
  return <Terms key={handshake.id} job={job} handshake={handshake} />
}

function Terms({ job, handshake }: { job: Job; handshake: Handshake }) {
  const context = useMemo(() => termContextOf(job, handshake), [job, handshake])
  const clasp = useMemo(() => claspOf(context), [context])
  const terms = useTermEdit(job, handshake)
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
      <TermsFoot job={job} handshake={handshake} agreed={clasp.agreeing === clasp.total} problem={terms.problem} />
    </main>
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
