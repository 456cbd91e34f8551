import { blankPoint, deviceOf, handshakeTermsOf, ladderFor, type Handshake, type Job, type Point } from '@calm/core/job'
import type { Ladder } from '@calm/core/ladder'
import { Tabs } from 'radix-ui'
import { useMemo, useState } from 'react'
import { Link, useSearchParams } from 'react-router'
import { newId } from '../../api'
import { useEdit, useUndoKeys, type JobEdit } from '../../edit'
import { useStage } from '../../shell'
import { Button, cn, Problems, Sheet } from '../../ui'
import { ForcedValues } from '../forced'
import { HandshakePicker, NoHandshake, useChosenHandshake } from '../handshake'
import { Frames } from './frames'
import { Hop } from './hop'
import { PointDialog } from './pointDialog'
import { PointList } from './pointList'
import { RecordBox } from './recordBox'
import { RungList } from './rungList'
import { Thread } from './thread'
import { useLiveOfHandshake, useProof, type LiveOfHandshake, type Proof } from './useProof'
import { Want } from './want'

/** Proof: each value followed from the device to the screen, against an independent reference. */
export function ProofPage() {
  const { job } = useStage()
  const handshake = useChosenHandshake(job)
  if (!handshake) return <NoHandshake job={job} stage="Proof" />
  return <ProofOf key={handshake.id} job={job} handshake={handshake} />
}

function ProofOf({ job, handshake }: { job: Job; handshake: Handshake }) {
  const live = useLiveOfHandshake(job, handshake)
  const ladder = useMemo(() => ladderFor(job, handshake), [job, handshake])
  const edit = useEdit(job)
  useUndoKeys(
    () => edit.attempt(edit.undo()),
    () => edit.attempt(edit.redo()),
  )
  const [params, setParams] = useSearchParams()
  const chosen = handshake.points.find((each) => each.id === params.get('point')) ?? handshake.points[0]
  const choose = (id: string) => setParams({ point: id }, { replace: true })
  const addPoint = () => {
    const id = newId()
    const last = handshake.points.at(-1)
    const fields = {
      ...blankPoint(deviceOf(job, handshake.deviceId)?.tag ?? ''),
      position: (last?.position ?? 0) + 1,
      handshakeId: handshake.id,
    }
    edit.attempt(edit.change('Point added.', [{ op: 'add', table: 'point', id, fields }]).then(() => choose(id)))
  }
  if (!chosen)
    return (
      <Sheet className="grid content-start gap-3 p-6">
        <h1>Proof</h1>
        <p>{handshake.name} has no point yet: nothing that could be read and compared.</p>
        <Problems reason={edit.problem} />
        <p>
          <Button look="act" size="tall" onClick={addPoint}>
            Add a point
          </Button>
        </p>
      </Sheet>
    )
  return (
    <Tabs.Root asChild orientation="vertical" value={chosen.id} onValueChange={choose} activationMode="automatic">
      <Sheet className="flex flex-col px-6 pb-5">
        <PointProof
          key={chosen.id}
          job={job}
          handshake={handshake}
          point={chosen}
          live={live}
          ladder={ladder}
          edit={edit}
          onAdd={addPoint}
        />
      </Sheet>
    </Tabs.Root>
  )
}

interface PointProofProps {
  readonly job: Job
  readonly handshake: Handshake
  readonly point: Point
  readonly live: LiveOfHandshake
  readonly ladder: Ladder
  readonly edit: JobEdit
  readonly onAdd: () => void
}

function PointProof({ job, handshake, point, live, ladder, edit, onAdd }: PointProofProps) {
  const proof = useProof(job, handshake, point, live)
  const [editing, setEditing] = useState(false)
  const changePoint = (change: Partial<Point>) => edit.set(`${point.quantity} changed.`, 'point', point, change)
  const device = deviceOf(job, handshake.deviceId)
  const controller = deviceOf(job, handshake.controllerId)
  const { judgement } = proof
  return (
    <>
      <header className="flex items-start justify-between gap-6 pt-3.5 pb-2.5 max-desk:flex-wrap max-tablet:items-stretch max-tablet:[flex-flow:column_nowrap]">
        <div className="flex-1 max-desk:basis-full max-tablet:basis-auto">
          <div className="flex items-end gap-4 max-tablet:flex-wrap">
            <h1>
              {device?.tag}: {point.quantity}
            </h1>
            <Button look="plain" onClick={() => setEditing(true)}>
              Change what is read
            </Button>
          </div>
          <p
            className={cn('mt-0.5 text-lead', judgement.verdict === 'at-odds' && 'text-odds')}
            role="status"
            data-verdict={judgement.verdict}
          >
            {judgement.say}
          </p>
          {judgement.verdict === 'at-odds' && (
            <Link className="text-note" to={`/jobs/${job.id}/data-path/${handshake.id}?view=why&point=${point.id}`}>
              Why is it wrong
            </Link>
          )}
        </div>
        <div className="w-60 max-tablet:w-auto">
          <HandshakePicker
            job={job}
            stage="proof"
            chosen={handshake}
            isAtOdds={(each) => ladderFor(job, each).rungs.some((rung) => rung.state === 'at-odds')}
          />
        </div>
        <Want point={point} onChange={changePoint} />
      </header>
      <Problems reason={edit.problem} />
      <div className="flex flex-col gap-3 phone:flex-row phone:gap-5">
        <PointList handshake={handshake} ladder={ladder} readings={live.readings} onAdd={onAdd} />
        <Tabs.Content value={point.id} className="min-w-0 flex-1" tabIndex={-1}>
          <PathView job={job} handshake={handshake} point={point} proof={proof} />
        </Tabs.Content>
      </div>
      <div className="-mx-6 mt-3.5 mb-0 grid grid-cols-[minmax(0,1fr)_330px] gap-8 border-t border-rule-strong px-6 pt-3.5 max-tablet:grid-cols-1">
        <RungList job={job} handshake={handshake} ladder={ladder} />
        <aside className="flex flex-col gap-3.5">
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
          device={device?.tag ?? 'the device'}
          onSave={changePoint}
          onRemove={
            handshake.points.length > 1
              ? () => edit.attempt(edit.removeRow(`${point.quantity} removed.`, 'point', point))
              : undefined
          }
          onClose={() => setEditing(false)}
        />
      )}
    </>
  )
}

function PathView({ job, handshake, point, proof }: { job: Job; handshake: Handshake; point: Point; proof: Proof }) {
  const terms = handshakeTermsOf(job, handshake)
  const register = point.source?.register ?? terms['first-register']?.device?.text ?? 'register not known'
  const [first, second, third] = proof.judgement.hops
  return (
    <section
      className="relative"
      aria-label="Path of the value"
      style={{ '--hop-count': proof.judgement.hops.length } as React.CSSProperties}
    >
      <Thread judgement={proof.judgement} />
      <ol className="grid grid-cols-[repeat(var(--hop-count,3),minmax(0,1fr))] max-tablet:grid-cols-1">
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
