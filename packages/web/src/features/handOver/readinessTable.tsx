import { DataTable, rungFill, type TableColumn, tip } from '../../ui'
import type { RungReadiness } from '@calm/core/handOver'
import type { Job } from '@calm/core/job'
import { rungStateWords, type RungState } from '@calm/core/ladder'
import { Link } from 'react-router'

const ORDER: readonly RungState[] = ['proven', 'in-hand', 'waiting', 'at-odds', 'parked', 'not-started']

/** How the whole job stands, rung by rung, with what is still open. */
export function ReadinessTable({ job, rungs }: { job: Job; rungs: readonly RungReadiness[] }) {
  const columns: readonly TableColumn<RungReadiness>[] = [
    { id: 'rung', head: 'Rung', names: true, className: 'whitespace-nowrap', cell: ({ name }) => name },
    {
      id: 'proven',
      head: 'Proven',
      width: 64,
      cell: ({ counts, needed }) => (
        <>
          <b>{counts.proven}</b>
          <span className="text-ink-soft">/{needed}</span>
        </>
      ),
    },
    {
      id: 'share',
      head: 'Share',
      quietHead: true,
      width: 200,
      hideNarrow: true,
      cell: ({ counts, needed }) => <StateBar counts={counts} needed={needed} />,
    },
    { id: 'open', head: 'Still open', cell: (rung) => <StillOpen job={job} rung={rung} /> },
  ]
  return (
    <DataTable name="readiness" caption="Readiness by rung" rows={rungs} keyOf={({ rung }) => rung} columns={columns} />
  )
}

function StillOpen({ job, rung }: { job: Job; rung: RungReadiness }) {
  return (
    <>
      {rung.open.slice(0, 3).map((open, k) => (
        <span key={open.handshakeId}>
          {k > 0 && ', '}
          <Link
            className="whitespace-nowrap"
            to={`/jobs/${job.id}/proof/${open.handshakeId}`}
            {...tip(`${rungStateWords[open.state]}. ${open.missing}`)}
          >
            {open.name.split(' to ').at(-1)}
          </Link>
        </span>
      ))}
      {rung.open.length > 3 && <span className="text-ink-soft"> and {rung.open.length - 3} more</span>}
    </>
  )
}

/** One mark for each handshake, in the forms of the ladder. */
function StateBar({ counts, needed }: { counts: RungReadiness['counts']; needed: number }) {
  const marks = ORDER.flatMap((state) => Array.from({ length: counts[state] }, () => state)).slice(0, 40)
  const step = 180 / Math.max(needed, 8)
  const width = Math.min(8, step - 3)
  const label = ORDER.filter((state) => counts[state] > 0)
    .map((state) => `${counts[state]} ${rungStateWords[state]}`)
    .join(', ')
  return (
    <svg className="block h-3.5 w-full" viewBox="0 0 180 14" role="img" aria-label={label || 'nothing needed'}>
      {marks.map((state, k) => (
        <path key={k} className={rungFill[state]} d={barPath(state, k * step, width)} />
      ))}
    </svg>
  )
}

function barPath(state: RungState, x: number, width: number): string {
  switch (state) {
    case 'proven':
      return `M${x} 0h${width}v14h-${width}z`
    case 'at-odds':
      return `M${x - 1} 0h${width / 2}v8h-${width / 2}zM${x + width / 2} 6h${width / 2}v8h-${width / 2}z`
    case 'in-hand':
    case 'waiting':
      return `M${x} 7h${width}v7h-${width}z`
    case 'parked':
    case 'not-apply':
      return `M${x} 6h${width}v2h-${width}z`
    case 'not-started':
      return `M${x} 11h${width}v3h-${width}z`
  }
}
