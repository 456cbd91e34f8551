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
    <ul className="lamps">
      {lamps.flatMap(eachPattern).map(({ lamp, pattern, means }, index) => (
        <li key={`${lamp}${means}${index}`}>
          <b className="typed">{lamp}</b>
          {pattern.shape === 'shows' ? (
            <span className="display typed">{pattern.text}</span>
          ) : (
            <svg width={WIDTH} height="26" viewBox={`0 0 ${WIDTH} 26`} aria-hidden="true" className="lamp-time">
              <path d={`M0 13H${WIDTH}`} className="lamp-line" />
              {litParts(pattern).map(({ from, to, tall }) => (
                <rect
                  key={from}
                  x={(from / SECONDS) * WIDTH}
                  y={tall ? 4 : 8}
                  width={((to - from) / SECONDS) * WIDTH}
                  height={tall ? 18 : 10}
                  className={tall ? 'lamp-on' : 'lamp-other'}
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
