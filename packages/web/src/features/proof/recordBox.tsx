import type { Handshake, Job, Point } from '@calm/core/job'
import { format } from 'date-fns/format'
import { useRef, useState } from 'react'
import { api } from '@calm/contract/api'
import { serverNow, useAct } from '../../api'
import { usePageKeys } from '../../shell'
import { Problems, Button } from '../../ui'
import type { Proof } from './useProof'

/** Records what is seen now. The server judges its own readings again; the page cannot make a reading proven. */
export function RecordBox({
  job,
  handshake,
  point,
  proof,
}: {
  job: Job
  handshake: Handshake
  point: Point
  proof: Proof
}) {
  const change = useAct(job.id, api.recordReading)
  const button = useRef<HTMLButtonElement>(null)
  const { judgement, readings } = proof
  const [recorded, setRecorded] = useState<string | undefined>(undefined)
  const record = () => {
    if (!readings.device || change.isPending) return
    setRecorded(undefined)
    change.mutate(
      {
        params: { id: handshake.id },
        body: {
          pointId: point.id,
          deviceReading: readings.device.sequence,
          controllerReading: proof.asksController ? (readings.controller?.sequence ?? null) : null,
          controllerTyped: proof.asksController ? null : proof.controllerTyped.text,
          shownTyped: point.shownAt === '' ? null : proof.shownTyped.text,
          typedAt: proof.shownTyped.at || proof.controllerTyped.at || serverNow(),
        },
      },
      {
        onSuccess: ({ verdict: came, say }) => {
          setRecorded(sayRecorded(point, came, say))
          proof.letGo()
        },
      },
    )
  }
  usePageKeys({ R: () => button.current?.click(), H: () => proof.toggleHold() })
  const { verdict } = judgement
  return (
    <section className="grid gap-2" aria-label="Record">
      {job.mode === 'plant' && (
        <>
          <Button size="tall" wide aria-pressed={proof.reading} onClick={proof.toggleReading}>
            {proof.reading ? 'Stop reading live' : 'Begin reading live'}
          </Button>
          <p className="note">Opens one connection to each end and reads twice a second. Nothing is written.</p>
        </>
      )}
      <Button size="tall" wide aria-pressed={proof.held} onClick={proof.toggleHold}>
        {proof.held ? 'Let the device side go' : 'Hold the device side'} <kbd>H</kbd>
      </Button>
      <Button
        ref={button}
        look="act"
        size="tall"
        wide
        disabled={verdict === 'open' || change.isPending}
        // The second click of a double click would record the next reading.
        onClick={(event) => event.detail < 2 && record()}
      >
        {verdict === 'proven'
          ? 'Record reading as proven'
          : verdict === 'at-odds'
            ? 'Record reading as at odds'
            : 'Nothing to record yet'}{' '}
        <kbd className="text-inherit">R</kbd>
      </Button>
      <p className="note">
        {verdict === 'open' ? judgement.say : 'Saves words, values, times and the reference, signed with your name.'}
        {judgement.apart !== undefined && ` ${(judgement.apart / 1000).toFixed(1)} s lie between the readings.`}
      </p>
      {recorded !== undefined && (
        <p role="status" aria-label="Recorded" className="text-row font-firm">
          {recorded}
        </p>
      )}
      <Problems reason={change.error} />
    </section>
  )
}

/** What was recorded, once, and what it counts for: a point that need not be proven proves no rung. */
function sayRecorded(point: Point, verdict: 'proven' | 'at-odds', say: string): string {
  const what = `Recorded ${format(serverNow(), 'HH:mm:ss')}, ${point.quantity}: ${verdict === 'proven' ? 'proven' : 'at odds'}. ${say}`
  return point.asked ? what : `${what} It need not be proven: the rung Reading does not ask for it.`
}
