import type { JobSummary } from '@calm/contract/api'

const CELL = 13
const HEIGHT = 18

/** The rungs of a whole job between two rails: each filled as far as its handshakes have it, broken where one is at odds. */
export function JobLadder({ ladder }: Pick<JobSummary, 'ladder'>) {
  const width = CELL * ladder.length
  const label = ladder
    .map(({ name, proven, needed, atOdds }) =>
      needed === 0
        ? `${name}: nothing to prove`
        : `${name}: ${proven} of ${needed}${atOdds > 0 ? `, ${atOdds} at odds` : ''}`,
    )
    .join('; ')
  return (
    <svg width={width} height={HEIGHT} viewBox={`0 0 ${width} ${HEIGHT}`} role="img" aria-label={label}>
      <path className="stroke-rule-strong" d={`M0 .75H${width}M0 ${HEIGHT - 0.75}H${width}`} />
      {ladder.map(({ rung, proven, needed, atOdds }, k) => {
        const inner = HEIGHT - 4
        const filled = needed === 0 ? 0 : (inner * proven) / needed
        return (
          <g key={rung} transform={`translate(${k * CELL + 3} 2)`}>
            {needed > 0 && <rect className="fill-none stroke-rule" width={CELL - 6} height={inner} />}
            <rect className="fill-proven" width={CELL - 6} y={inner - filled} height={filled} />
            {atOdds > 0 && <path className="fill-odds" d={`M-1.5 0H4V4H-1.5ZM3 5H${CELL - 4.5}V9H3Z`} />}
          </g>
        )
      })}
    </svg>
  )
}
