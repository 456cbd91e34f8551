import type { RungReadiness } from '@calm/core/handOver'
import type { Job } from '@calm/core/job'
import { rungStateWords, type RungState } from '@calm/core/ladder'
import { Link } from 'react-router'

const ORDER: readonly RungState[] = ['proven', 'in-hand', 'waiting', 'at-odds', 'parked', 'not-started']

/** How the whole job stands, rung by rung, with what is still open. */
export function ReadinessTable({ job, rungs }: { job: Job; rungs: readonly RungReadiness[] }) {
  return (
    <table>
      <thead>
        <tr>
          <th>Rung</th>
          <th style={{ width: 64 }}>Proven</th>
          <th style={{ width: 200 }}>
            <span className="visually-hidden">Share</span>
          </th>
          <th>Still open</th>
        </tr>
      </thead>
      <tbody>
        {rungs.map((rung) => (
          <tr key={rung.rung}>
            <th scope="row">{rung.name}</th>
            <td>
              <b>{rung.counts.proven}</b>
              <span className="soft">/{rung.needed}</span>
            </td>
            <td>
              <StateBar counts={rung.counts} needed={rung.needed} />
            </td>
            <td>
              {rung.open.slice(0, 3).map((open, k) => (
                <span key={open.handshakeId}>
                  {k > 0 && ', '}
                  <Link
                    to={`/jobs/${job.id}/proof/${open.handshakeId}`}
                    title={`${rungStateWords[open.state]}. ${open.missing}`}
                  >
                    {open.name.split(' to ').at(-1)}
                  </Link>
                </span>
              ))}
              {rung.open.length > 3 && <span className="soft"> and {rung.open.length - 3} more</span>}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
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
    <svg className="bar" viewBox="0 0 180 14" role="img" aria-label={label || 'nothing needed'}>
      {marks.map((state, k) => (
        <path key={k} className={`r-${state}`} d={barPath(state, k * step, width)} />
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
