import type { PathJudgement } from '@calm/core/path'
import { rounded, seamAlong } from '../../ui'

const WIDTH = 900
const Y = 13

/** The thread through the hops: a closed seam while the value holds, parted where it turns wrong, dotted after that. */
export function Thread({ judgement }: { judgement: PathJudgement }) {
  const count = judgement.hops.length
  const cell = WIDTH / count
  let broken = false
  return (
    <svg
      className="absolute top-0 left-0 block h-6.5 w-full max-tablet:hidden"
      viewBox={`0 0 ${WIDTH} 26`}
      preserveAspectRatio="none"
      aria-hidden="true"
    >
      {judgement.hops.slice(1).map((hop, k) => {
        const from = k * cell + 34
        const to = (k + 1) * cell - 8
        if (broken || hop.state === 'no-value' || hop.state === 'no-reference' || hop.state === 'stale') {
          return (
            <path
              key={hop.observation.at}
              className="fill-none stroke-ink-faint stroke-2 [stroke-dasharray:2_6] [stroke-linecap:round]"
              d={`M${from} ${Y}H${to}`}
            />
          )
        }
        if (hop.turnsWrongHere) {
          broken = true
          const part = from + (to - from) * 0.5
          const gap = `M${part} ${Y}C${part + 14} 2 ${part + 26} 2 ${part + 44} 2H${to - 44}C${to - 26} 2 ${to - 14} 4 ${to} ${Y}C${to - 14} 22 ${to - 26} 24 ${to - 44} 24H${part + 44}C${part + 26} 24 ${part + 14} 22 ${part} ${Y}Z`
          return (
            <g key={hop.observation.at}>
              <path className="fill-none stroke-proven stroke-3" d={rounded(seamAlong(Y, from, part, 18, 5), 2.6)} />
              <path className="fill-ground stroke-odds-mark stroke-3" d={gap} />
            </g>
          )
        }
        return (
          <path
            key={hop.observation.at}
            className="fill-none stroke-proven stroke-3"
            d={rounded(seamAlong(Y, from, to, 18, 5), 2.6)}
          />
        )
      })}
    </svg>
  )
}
