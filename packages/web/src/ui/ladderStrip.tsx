import { rungStateWords, type Ladder, type RungState } from '@calm/core/ladder'
import { rungFill } from './stateColours'
import { tip } from './tips'

const CELL = 9.8
const HEIGHT = 20

/** One rung: the top half is the controller's end, the bottom half the device's. */
function rungPath(state: RungState, x: number): string {
  const m = x + CELL / 2
  const mid = HEIGHT / 2
  switch (state) {
    case 'proven':
      return `M${m - 3} 2H${m + 3}V${HEIGHT - 2}H${m - 3}Z`
    case 'at-odds':
      return `M${m - 4.9} 1.5H${m + 0.1}V${mid - 1.2}H${m - 4.9}ZM${m - 0.1} ${mid + 1.2}H${m + 4.9}V${HEIGHT - 1.5}H${m - 0.1}Z`
    case 'in-hand':
      return `M${m - 3} ${HEIGHT - 2}V${mid - 1}H${m + 3}V${HEIGHT - 2}ZM${m - 3} 2H${m + 3}V4.2H${m - 3}Z`
    case 'waiting':
      return `M${m - 4} 2H${m + 4}L${m + 0.8} ${mid}L${m + 4} ${HEIGHT - 2}H${m - 4}L${m - 0.8} ${mid}Z`
    case 'parked':
    case 'not-apply':
      return `M${m - 3.4} ${mid - 1.1}H${m + 3.4}V${mid + 1.1}H${m - 3.4}Z`
    case 'not-started':
      return `M${m - 0.8} 2H${m + 0.8}V6H${m - 0.8}ZM${m - 0.8} ${HEIGHT - 6}H${m + 0.8}V${HEIGHT - 2}H${m - 0.8}Z`
  }
}

/** Nine rungs between two rails, with the count of proven ones before them. */
export function LadderStrip({ ladder }: { ladder: Ladder }) {
  const width = CELL * ladder.rungs.length
  const label = ladder.rungs.map((rung) => `${rung.name}: ${rungStateWords[rung.state]}`).join('; ')
  return (
    <span className="inline-flex items-center gap-2 align-middle" {...tip(label)}>
      <b className="w-2.5 text-right font-typed text-row leading-none font-heavy">{ladder.proven || '–'}</b>
      <svg width={width} height={HEIGHT} viewBox={`0 0 ${width} ${HEIGHT}`} role="img" aria-label={label}>
        <path
          className="fill-none stroke-rule-strong stroke-1 opacity-55"
          d={`M0 .75H${width}M0 ${HEIGHT - 0.75}H${width}`}
        />
        {ladder.rungs.map((rung, k) => (
          <path key={rung.rung} className={rungFill[rung.state]} d={rungPath(rung.state, k * CELL)} />
        ))}
      </svg>
    </span>
  )
}
