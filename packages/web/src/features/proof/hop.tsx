import type { LiveReading } from '@calm/contract'
import { wordText } from '@calm/core/modbus'
import type { HopJudgement } from '@calm/core/path'
import type { RungState } from '@calm/core/ladder'
import { formatNumber, parseDecimal } from '@calm/core/values'
import { format } from 'date-fns'
import { Field, Glyph, Powers } from '../../ui'
import type { TypedValue } from './useProof'

const glyphOf: Readonly<Record<HopJudgement['state'], RungState>> = {
  inside: 'proven',
  outside: 'at-odds',
  'no-value': 'not-started',
  'no-reference': 'in-hand',
}

interface HopProps {
  readonly hop: HopJudgement
  readonly where: string
  readonly unit: string
  readonly decimals: number
  readonly reading?: LiveReading | undefined
  readonly typed?: TypedValue | undefined
  readonly onType?: (text: string) => void
}

/** One hop: the raw words as they stand there, the value they make, and where it came from. */
export function Hop({ hop, where, unit, decimals, reading, typed, onType }: HopProps) {
  const { observation } = hop
  const { value, words, source } = observation
  return (
    <li className={`hop ${hop.state}`} data-state={hop.state}>
      <Glyph state={glyphOf[hop.state]} size={26} label />
      <h2>{observation.at}</h2>
      <p className="note">{where}</p>
      <p className="words">
        {words ? (
          words.map((word, k) => (
            <span key={k} className="word">
              {wordText(word)}
            </span>
          ))
        ) : (
          <span className="note">{typed ? 'no words here: it is read off' : ' '}</span>
        )}
      </p>
      {typed && onType ? (
        <Field
          label={`What ${observation.at} shows${unit ? `, in ${unit}` : ''}`}
          inputMode="decimal"
          value={typed.text}
          trouble={troubleOf(typed.text)}
          onChange={onType}
        />
      ) : (
        <p className="got">
          <b>{value === undefined ? '–' : <Powers text={formatNumber(value, decimals)} />}</b>
          {value !== undefined && <i>{unit}</i>}
        </p>
      )}
      <p className="say">{hop.say}</p>
      {reading?.hint && <p className="note">{reading.hint}</p>}
      <p className="note">
        {source === 'typed'
          ? observation.seen === undefined
            ? ''
            : `typed at ${format(observation.seen, 'HH:mm:ss')}`
          : reading
            ? `${source === 'held' ? 'held since' : 'live,'} ${format(reading.at, 'HH:mm:ss')}${reading.roundTripMs === null ? '' : `, answered in ${reading.roundTripMs.toFixed(1)} ms`}, ${reading.mode}`
            : ''}
      </p>
    </li>
  )
}

function troubleOf(text: string) {
  if (text.trim() === '') return undefined
  const read = parseDecimal(text, 'The value')
  return read.ok ? undefined : read.refusal
}
