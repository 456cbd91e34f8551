import { lampWords, type LampMeaning, type LampPattern } from '@calm/core/kind'

const WIDTH = 264
const SECONDS = 4

/** Stretches of a pattern in which it is lit, in seconds, with the colour by word. */
function litParts(
  pattern: LampPattern,
): readonly { readonly from: number; readonly to: number; readonly tall: boolean }[] {
  switch (pattern.shape) {
    case 'off':
    case 'shows':
      return []
    case 'either':
      return pattern.of[0] ? litParts(pattern.of[0]) : []
    case 'steady':
      return [{ from: 0, to: SECONDS, tall: true }]
    case 'together':
    case 'flashing': {
      const period = 1 / pattern.hertz
      return Array.from({ length: Math.ceil(SECONDS / period) }, (_, k) => ({
        from: k * period,
        to: Math.min(SECONDS, (k + 0.5) * period),
        tall: true,
      }))
    }
    case 'in-turn': {
      const part = 1 / pattern.hertz / pattern.colours.length
      return Array.from({ length: Math.ceil(SECONDS / part) }, (_, k) => ({
        from: k * part,
        to: Math.min(SECONDS, (k + 1) * part),
        tall: k % pattern.colours.length === 0,
      }))
    }
  }
}

/** Of what may be either way, each way has its own drawing. */
const eachPattern = ({ lamp, pattern, means }: LampMeaning): readonly LampMeaning[] =>
  pattern.shape === 'either'
    ? pattern.of.map((one, index) => ({ lamp: index === 0 ? lamp : 'or', pattern: one, means }))
    : [{ lamp, pattern, means }]

/** Lamps and displays as words and as a small drawing over time. Colours are written, never painted. */
export function LampDrawings({ lamps }: { lamps: readonly LampMeaning[] }) {
  return (
    <ul className="grid gap-2">
      {lamps.flatMap(eachPattern).map(({ lamp, pattern, means }, index) => (
        <li
          className="grid grid-cols-[84px_264px_1fr] items-center gap-3.5 max-phone:grid-cols-1 max-phone:gap-1"
          key={`${lamp}${means}${index}`}
        >
          <b className="font-typed font-medium">{lamp}</b>
          {pattern.shape === 'shows' ? (
            <span className="justify-self-start rounded-sm bg-ground px-3 py-0.5 font-typed text-title font-heavy">
              {pattern.text}
            </span>
          ) : (
            <svg width={WIDTH} height="26" viewBox={`0 0 ${WIDTH} 26`} aria-hidden="true" className="lamp-time">
              <path d={`M0 13H${WIDTH}`} className="stroke-rule-strong stroke-[1.5]" />
              {litParts(pattern).map(({ from, to, tall }) => (
                <rect
                  key={from}
                  x={(from / SECONDS) * WIDTH}
                  y={tall ? 4 : 8}
                  width={((to - from) / SECONDS) * WIDTH}
                  height={tall ? 18 : 10}
                  className={tall ? 'fill-act' : 'fill-none stroke-act stroke-2'}
                />
              ))}
            </svg>
          )}
          <span>
            {lampWords(pattern)}
            <span className="note">: {means}</span>
          </span>
        </li>
      ))}
    </ul>
  )
}
