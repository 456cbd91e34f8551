import type { LiveReading } from '@calm/contract'
import { wordText } from '@calm/core/modbus'
import type { HopJudgement } from '@calm/core/path'
import type { RungState } from '@calm/core/ladder'
import { formatNumber, parseDecimal } from '@calm/core/values'
import { format } from 'date-fns/format'
import { Field, Glyph, Powers } from '../../ui'
import type { TypedValue } from './useProof'

const glyphOf: Readonly<Record<HopJudgement['state'], RungState>> = {
  inside: 'proven',
  outside: 'at-odds',
  'no-value': 'not-started',
  'no-reference': 'in-hand',
  stale: 'waiting',
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
    <li className="group min-w-0 pr-5 max-tablet:py-2.5" data-hop data-state={hop.state}>
      <span className="relative inline-block bg-sheet">
        <Glyph state={glyphOf[hop.state]} size={26} label />
      </span>
      <h2 className="mt-1.5 leading-tight">{observation.at}</h2>
      <p className="note">{where}</p>
      <p className="mt-2 mb-1 flex min-h-8.5 items-center gap-1.5">
        {words ? (
          words.map((word, k) => (
            <span
              key={k}
              data-word
              className="bg-ground px-2.5 font-typed text-lead leading-8 font-heavy tracking-[0.02em] group-data-[state=outside]:bg-odds-wash"
            >
              {wordText(word)}
            </span>
          ))
        ) : (
          <span className="note">{typed ? 'no words here: it is read off' : ' '}</span>
        )}
      </p>
      {typed && onType ? (
        <Field
          className="max-w-45"
          label={`What ${observation.at} shows${unit ? `, in ${unit}` : ''}`}
          inputMode="decimal"
          value={typed.text}
          trouble={troubleOf(typed.text)}
          onChange={onType}
        />
      ) : (
        <p className="flex min-h-9 items-baseline gap-2">
          <b
            data-value
            className="text-say leading-snug font-heavy whitespace-nowrap group-data-[state=outside]:text-odds group-data-[state=stale]:text-ink-soft group-data-[state=stale]:line-through"
          >
            {value === undefined ? '–' : <Powers text={formatNumber(value, decimals)} />}
          </b>
          {value !== undefined && <i className="text-ink-soft">{unit}</i>}
        </p>
      )}
      <p
        className="text-row leading-snug group-data-[state=outside]:text-odds group-data-[state=stale]:font-heavy group-data-[state=stale]:text-odds"
        role={hop.state === 'stale' ? 'status' : undefined}
      >
        {hop.say}
      </p>
      {reading?.unsure && (
        <p className="text-row leading-snug text-odds" role="status">
          {reading.unsure} It proves nothing until the line was quiet.
        </p>
      )}
      {reading?.hint && <p className="note">{reading.hint}</p>}
      <p className="note">
        {source === 'typed'
          ? observation.seen === undefined
            ? ''
            : `typed at ${format(observation.seen, 'HH:mm:ss')}`
          : reading
            ? `${source === 'held' ? 'held since' : hop.state === 'stale' ? 'not live any more, read' : 'live,'} ${format(reading.at, 'HH:mm:ss')}${reading.roundTripMs === null ? '' : `, answered in ${reading.roundTripMs.toFixed(1)} ms`}, ${reading.mode}`
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
