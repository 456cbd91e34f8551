import type { JobLog } from '@calm/contract/api'
import { ladderFor } from '@calm/core/job'
import { readinessOf, type Readiness } from '@calm/core/handOver'
import { format } from 'date-fns/format'
import { FileJson, FileSpreadsheet, Printer } from 'lucide-react'
import { useMemo } from 'react'
import { Link } from 'react-router'
import { useJobLog, useWalk } from '../../api'
import { useStage } from '../../shell'
import { button, cn, DataTable, Glyph, Sheet, type TableColumn } from '../../ui'
import { ForcedValues } from '../forced'
import { FromFileNote } from '../fromFile'
import { LedgerList } from './ledgerList'
import { OpenPoints } from './openPoints'
import { ReadinessTable } from './readinessTable'

/** Hand-over: what is proven, what is open, and the record to leave behind. */
export function HandOverPage() {
  const { job } = useStage()
  const walk = useWalk(job.id)
  const record = walk.data
  const readiness = useMemo(() => record && readinessOf(job, record, ladderFor), [job, record])
  if (!readiness) return <Sheet className="px-6 pt-3 pb-6" aria-busy="true" />
  const { open, known } = readiness
  const ready = open.length === 0
  return (
    <Sheet className="px-6 pt-3 pb-6">
      <div className="sticky -top-3 z-6 -mt-3 flex min-h-16 items-center gap-3.5 bg-sheet pt-3">
        <h1>Hand-over</h1>
        <p className={cn('inline-flex items-center gap-1.5', ready ? '' : 'font-firm text-odds')} role="status">
          <Glyph state={ready ? 'proven' : 'at-odds'} size={18} />
          {ready ? sayReady(readiness) : `Not yet: ${open.length} open.`}
        </p>
      </div>
      <div className="grid grid-cols-[minmax(0,1fr)_320px] gap-8 max-tablet:grid-cols-1">
        <section aria-label="Readiness by rung" className="grid content-start gap-2.5">
          <FromFileNote jobId={job.id} />
          <OpenPoints job={job} open={open} known={known} />
          <ReadinessTable job={job} rungs={readiness.rungs} />
          <LogView jobId={job.id} />
        </section>
        <aside className="grid content-start gap-2.5">
          <h3>As-left record</h3>
          <Link className={button({ look: 'act', size: 'tall' })} to={`/jobs/${job.id}/record`}>
            <Printer size={17} aria-hidden /> Open for print
          </Link>
          <a className={button({ size: 'tall' })} href={`/api/jobs/${job.id}/record.json`} download>
            <FileJson size={17} aria-hidden /> Record as JSON
          </a>
          <a className={button({ size: 'tall' })} href={`/api/jobs/${job.id}/record.csv`} download>
            <FileSpreadsheet size={17} aria-hidden /> Evidence as CSV
          </a>
          <a className={button({ size: 'tall' })} href={`/api/jobs/${job.id}/export`} download>
            <FileJson size={17} aria-hidden /> Whole job as a file
          </a>
          <ForcedValues job={job} />
          <LedgerList ledger={readiness.ledger} />
        </aside>
      </div>
    </Sheet>
  )
}

/** What was counted, and what somebody decided otherwise: "ready" alone would say more than is so. */
const sayReady = ({ points, known }: Readiness) =>
  `Nothing open: ${points.proven} of ${points.of} points proven${known.length > 0 ? `, ${known.length} parked or let stand` : ''}.`

const logColumns: readonly TableColumn<JobLog['entries'][number]>[] = [
  { id: 'when', head: 'When', className: 'whitespace-nowrap', cell: ({ at }) => format(at, 'd MMM HH:mm:ss') },
  { id: 'who', head: 'Who', className: 'whitespace-nowrap', cell: ({ who }) => who },
  { id: 'what', head: 'What', className: 'wrap-anywhere', cell: ({ what }) => what },
]

function LogView({ jobId }: { jobId: string }) {
  const log = useJobLog(jobId)
  if (!log.data) return null
  const { entries, whole, brokenAt, notes } = log.data
  const last = entries.slice(-12).reverse()
  return (
    <section aria-label="Log" className="mt-3">
      <h3>Log</h3>
      <p className="note">
        {whole
          ? `${entries.length} ${entries.length === 1 ? 'entry' : 'entries'}, each sealed to the one before; the chain is whole.`
          : `The chain is broken at entry ${brokenAt}.`}{' '}
        {notes.join(' ')}
      </p>
      <DataTable
        name="log"
        caption="The last entries of the log"
        rows={last}
        keyOf={({ sequence }) => String(sequence)}
        columns={logColumns}
      />
    </section>
  )
}
