import { deviceOf, handshakeTermsOf, type Handshake, type Job, type Point } from '@calm/core/job'
import { useMemo, useState } from 'react'
import { useJobChange } from '../../api'
import { ladderFor } from '../../job'
import { useStage } from '../../shell'
import { Problems } from '../../ui'
import { ForcedValues } from '../forced'
import { HandshakePicker, NoHandshake, useChosenHandshake } from '../handshake'
import { Frames } from './frames'
import { Hop } from './hop'
import { PointDialog } from './pointDialog'
import { RecordBox } from './recordBox'
import { RungList } from './rungList'
import { Thread } from './thread'
import { useProof, type Proof } from './useProof'
import { Want } from './want'

/** Proof: the value followed from the device to the screen, against an independent reference. */
export function ProofPage() {
  const { job } = useStage()
  const handshake = useChosenHandshake(job)
  const point = handshake?.points[0]
  if (!handshake || !point) return <NoHandshake jobId={job.id} stage="Proof" />
  return <ProofOf key={handshake.id} job={job} handshake={handshake} point={point} />
}

function ProofOf({ job, handshake, point }: { job: Job; handshake: Handshake; point: Point }) {
  const proof = useProof(job, handshake, point)
  const ladder = useMemo(() => ladderFor(job, handshake), [job, handshake])
  const { mutateAsync, error } = useJobChange(job.id)
  const [editing, setEditing] = useState(false)
  const changePoint = (change: Partial<Point>) =>
    mutateAsync({ method: 'PATCH', path: `/points/${point.id}`, body: { ...change, version: point.version } })
  const device = deviceOf(job, handshake.deviceId)
  const controller = deviceOf(job, handshake.controllerId)
  const { judgement } = proof
  return (
    <main className="sheet pf" tabIndex={-1}>
      <header className="pf-head">
        <div>
          <div className="flex items-end gap-4">
            <h1>
              {device?.tag}: {point.quantity}
            </h1>
            <button type="button" className="plain" onClick={() => setEditing(true)}>
              Change what is read
            </button>
          </div>
          <p
            className={`say ${judgement.verdict === 'at-odds' ? 'odds' : ''}`}
            role="status"
            data-verdict={judgement.verdict}
          >
            {judgement.say}
          </p>
        </div>
        <div style={{ width: 240 }}>
          <HandshakePicker
            job={job}
            stage="proof"
            chosen={handshake}
            isAtOdds={(each) => ladderFor(job, each).rungs.some((rung) => rung.state === 'at-odds')}
          />
        </div>
        <Want point={point} onChange={changePoint} />
      </header>
      <Problems reason={error} />
      <PathView job={job} handshake={handshake} point={point} proof={proof} />
      <div className="pf-low">
        <RungList job={job} handshake={handshake} ladder={ladder} />
        <aside className="pf-side">
          <RecordBox job={job} handshake={handshake} point={point} proof={proof} />
          <div className="grid gap-2">
            <Frames reading={proof.readings.device} tag={device?.tag ?? ''} />
            <Frames reading={proof.readings.controller} tag={controller?.tag ?? ''} />
          </div>
          <ForcedValues job={job} />
        </aside>
      </div>
      {editing && (
        <PointDialog
          point={point}
          controller={controller?.tag ?? 'the controller'}
          onSave={changePoint}
          onClose={() => setEditing(false)}
        />
      )}
    </main>
  )
}

function PathView({ job, handshake, point, proof }: { job: Job; handshake: Handshake; point: Point; proof: Proof }) {
  const terms = handshakeTermsOf(job, handshake)
  const register = terms['first-register']?.device?.text ?? 'register not known'
  const [first, second, third] = proof.judgement.hops
  return (
    <section
      className="path"
      aria-label="Path of the value"
      style={{ '--hop-count': proof.judgement.hops.length } as React.CSSProperties}
    >
      <Thread judgement={proof.judgement} />
      <ol className="hops">
        {first && (
          <Hop
            hop={first}
            where={`from register ${register}`}
            unit={point.unit}
            decimals={point.decimals}
            reading={proof.readings.device}
          />
        )}
        {second && (
          <Hop
            hop={second}
            where={`tag ${point.tag}${point.served ? `, served at ${point.served.register}` : ''}`}
            unit={point.unit}
            decimals={point.decimals}
            reading={proof.asksController ? proof.readings.controller : undefined}
            {...(!proof.asksController && { typed: proof.controllerTyped, onType: proof.setControllerTyped })}
          />
        )}
        {third && (
          <Hop
            hop={third}
            where="as people see it"
            unit={point.unit}
            decimals={point.decimals}
            typed={proof.shownTyped}
            onType={proof.setShownTyped}
          />
        )}
      </ol>
    </section>
  )
}
