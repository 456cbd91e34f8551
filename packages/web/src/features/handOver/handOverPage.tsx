import { ladderFor } from '@calm/core/job'
import { readinessOf } from '@calm/core/handOver'
import { format } from 'date-fns'
import { FileJson, FileSpreadsheet, Printer } from 'lucide-react'
import { useMemo } from 'react'
import { Link } from 'react-router'
import { useJobLog, useWalk } from '../../api'
import { useStage } from '../../shell'
import { Glyph } from '../../ui'
import { ForcedValues } from '../forced'
import { LedgerList } from './ledgerList'
import { ReadinessTable } from './readinessTable'

/** Hand-over: what is proven, what is open, and the record to leave behind. */
export function HandOverPage() {
  const { job } = useStage()
  const walk = useWalk(job.id)
  const temporary = walk.data?.temporary
  const readiness = useMemo(() => temporary && readinessOf(job, temporary, ladderFor), [job, temporary])
  if (!readiness) return <main className="sheet ho" tabIndex={-1} aria-busy="true" />
  const ready = readiness.blocks.length === 0
  return (
    <main className="sheet ho" tabIndex={-1}>
      <div className="head">
        <h1>Hand-over</h1>
        <p className={`state ${ready ? '' : 'at-odds'}`} role="status">
          <Glyph state={ready ? 'proven' : 'at-odds'} size={18} />
          {ready ? 'Nothing stands against it.' : 'Not yet.'}
        </p>
      </div>
      <div className="ho-grid">
        <section aria-label="Readiness by rung" className="stack">
          {!ready && (
            <ul className="open-points">
              {readiness.blocks.map((block) => (
                <li key={block}>
                  <Glyph state="at-odds" size={16} />
                  {block}
                </li>
              ))}
            </ul>
          )}
          <ReadinessTable job={job} rungs={readiness.rungs} />
          <LogView jobId={job.id} />
        </section>
        <aside className="stack">
          <h3>As-left record</h3>
          <Link className="act tall" to={`/jobs/${job.id}/record`}>
            <Printer size={17} aria-hidden /> Open for print
          </Link>
          <a className="quiet tall" href={`/api/jobs/${job.id}/record.json`} download>
            <FileJson size={17} aria-hidden /> Record as JSON
          </a>
          <a className="quiet tall" href={`/api/jobs/${job.id}/record.csv`} download>
            <FileSpreadsheet size={17} aria-hidden /> Evidence as CSV
          </a>
          <a className="quiet tall" href={`/api/jobs/${job.id}/export`} download>
            <FileJson size={17} aria-hidden /> Whole job as a file
          </a>
          <ForcedValues job={job} />
          <LedgerList ledger={readiness.ledger} />
        </aside>
      </div>
    </main>
  )
}

function LogView({ jobId }: { jobId: string }) {
  const log = useJobLog(jobId)
  if (!log.data) return null
  const { entries, whole, brokenAt, notes } = log.data
  return (
    <section aria-label="Log" className="mt-3">
      <h3>Log</h3>
      <p className="note">
        {whole
          ? `${entries.length} ${entries.length === 1 ? 'entry' : 'entries'}, each sealed to the one before; the chain is whole.`
          : `The chain is broken at entry ${brokenAt}.`}{' '}
        {notes.join(' ')}
      </p>
      <table>
        <tbody>
          {entries
            .slice(-12)
            .reverse()
            .map((entry) => (
              <tr key={entry.sequence}>
                <td className="nowrap">{format(entry.at, 'd MMM HH:mm:ss')}</td>
                <td>{entry.who}</td>
                <td>{entry.what}</td>
              </tr>
            ))}
        </tbody>
      </table>
    </section>
  )
}
