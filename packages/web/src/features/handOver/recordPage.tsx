import { deviceOf, readinessOf, termContextOf, type Job } from '@calm/core/job'
import { howWords, rungStateWords, type Ladder } from '@calm/core/ladder'
import { claspOf } from '@calm/core/terms'
import { format } from 'date-fns'
import { ArrowLeft, Printer } from 'lucide-react'
import { useEffect, useMemo } from 'react'
import { Link, useParams } from 'react-router'
import { useJob, useJobLog } from '../../api'
import { PageProblemText } from '../../shell'

/** The as-left record, made for A4. */
export function RecordPage() {
  const { jobId = '' } = useParams()
  const job = useJob(jobId)
  const log = useJobLog(jobId)
  useEffect(() => {
    if (job.data) document.title = `${job.data.name}, as left`
  }, [job.data])
  if (job.isError) return <PageProblemText reason={job.error} />
  if (!job.data || !log.data) return <p className="p-6 note">Reading the record…</p>
  return <Record job={job.data} seal={log.data.entries.at(-1)?.hash ?? 'none'} whole={log.data.whole} />
}

function Record({ job, seal, whole }: { job: Job; seal: string; whole: boolean }) {
  const readiness = useMemo(() => readinessOf(job), [job])
  return (
    <div className="record-page">
      <main className="record">
        <p className="no-print flex gap-3 mb-4">
          <Link className="quiet" to={`/jobs/${job.id}/hand-over`}>
            <ArrowLeft size={16} aria-hidden /> Back
          </Link>
          <button type="button" className="act" onClick={() => window.print()}>
            <Printer size={16} aria-hidden /> Print
          </button>
        </p>
        <h1>{job.name}: as-left record</h1>
        <p>
          {job.place}.{' '}
          {job.mode === 'plant' ? 'Read on the plant.' : 'Rehearsed on the bench: stand-ins, not the real equipment.'}{' '}
          Printed {format(Date.now(), 'd MMMM yyyy, HH:mm')}.
        </p>
        <h2>{readiness.blocks.length === 0 ? 'Ready to hand over' : 'Open points'}</h2>
        {readiness.blocks.length > 0 && (
          <ul>
            {readiness.blocks.map((block) => (
              <li key={block}>– {block}</li>
            ))}
          </ul>
        )}
        <h2>Devices</h2>
        <DeviceList job={job} />
        {readiness.ladders.map(({ handshake, ladder }) => (
          <section key={handshake.id}>
            <h2>{handshake.name}</h2>
            <TermList job={job} handshakeId={handshake.id} />
            <RungTable ladder={ladder} modes={new Map(handshake.evidence.map((each) => [each.id, each.mode]))} />
          </section>
        ))}
        <p className="note mt-3">
          Seal of the log: <span className="typed">{seal}</span>.{' '}
          {whole ? 'The chain is whole.' : 'The chain is broken.'}
        </p>
        <div className="sign">
          <span>Commissioned by</span>
          <span>Accepted by</span>
          <span>Date</span>
        </div>
      </main>
    </div>
  )
}

function DeviceList({ job }: { job: Job }) {
  return (
    <table>
      <thead>
        <tr>
          <th>Tag</th>
          <th>What it is</th>
          <th>Address</th>
          <th>Unit</th>
          <th>Gateway</th>
        </tr>
      </thead>
      <tbody>
        {job.devices.map((device) => {
          const [port] = device.ports
          return (
            <tr key={device.id}>
              <td>{device.tag}</td>
              <td>{device.what}</td>
              <td className="typed">
                {port?.address ?? (device.behindId ? `via ${deviceOf(job, device.behindId)?.tag ?? ''}` : '')}
              </td>
              <td className="typed">{device.unitId ?? ''}</td>
              <td className="typed">{port?.gateway ?? ''}</td>
            </tr>
          )
        })}
      </tbody>
    </table>
  )
}

function TermList({ job, handshakeId }: { job: Job; handshakeId: string }) {
  const handshake = job.handshakes.find((each) => each.id === handshakeId)
  if (!handshake) return null
  const { rows } = claspOf(termContextOf(job, handshake))
  const shown = (reading: (typeof rows)[number]['ends']['device']) =>
    reading.state === 'read' ? reading.shown : reading.state === 'refused' ? reading.entry.text : ''
  return (
    <p className="note">
      {rows
        .map((row) =>
          row.state === 'equal'
            ? `${row.name} ${shown(row.ends.device)}`
            : `${row.name} ${shown(row.ends.controller) || 'not known'} / ${shown(row.ends.device) || 'not known'} (${row.state === 'at-odds' ? 'at odds' : row.state})`,
        )
        .join('; ')}
      .
    </p>
  )
}

function RungTable({ ladder, modes }: { ladder: Ladder; modes: ReadonlyMap<string, string> }) {
  return (
    <table>
      <thead>
        <tr>
          <th style={{ width: '18%' }}>Rung</th>
          <th style={{ width: '14%' }}>State</th>
          <th>Evidence</th>
        </tr>
      </thead>
      <tbody>
        {ladder.rungs.map((rung) => (
          <tr key={rung.rung}>
            <td>{rung.name}</td>
            <td>{rungStateWords[rung.state]}</td>
            <td>
              {rung.because || rung.missing}
              {rung.evidence && (
                <>
                  {' '}
                  ({rung.evidence.who}, {format(rung.evidence.at, 'd MMM yyyy HH:mm')}, {howWords[rung.evidence.how]},{' '}
                  {modes.get(rung.evidence.id) ?? ''})
                </>
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}
