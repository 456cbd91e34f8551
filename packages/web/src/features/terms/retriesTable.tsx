import { retrySchools, unitsToMove, type LineTiming, type Poll } from '@calm/core/serial'
import { parseWholeNumber } from '@calm/core/units'
import { useMemo, useState } from 'react'
import { Choice, cn, Field } from '../../ui'
import { roundedMs } from './figure'

/** How often a bit is damaged, from a quiet line to one with trouble. */
const rates = [
  { value: '0', label: 'no bit damaged' },
  { value: '1e-7', label: '1 of 10 000 000 bits' },
  { value: '1e-6', label: '1 of 1 000 000 bits' },
  { value: '1e-5', label: '1 of 100 000 bits' },
  { value: '1e-4', label: '1 of 10 000 bits' },
] as const
type Rate = (typeof rates)[number]['value']

/** How long a round may take before people call the line slow. An assumption, said where it is used. */
const WANTED_MS = 1_000

interface RetriesProps {
  readonly timing: LineTiming
  readonly polls: readonly Poll[]
  /** Whose value is looked at. */
  readonly poll: Poll | undefined
  readonly silent: number
}

/** Two schools on tries after the first, on this very line: what they cost while one is silent, and what they mend. */
export function RetriesTable({ timing, polls, poll, silent }: RetriesProps) {
  const [rate, setRate] = useState<Rate>('1e-5')
  const [older, setOlder] = useState('2000')
  const olderThan = parseWholeNumber(older, { name: 'Older than', min: 1, max: 3_600_000 })
  const olderThanMs = olderThan.ok ? olderThan.value : undefined
  const schools = useMemo(
    () =>
      poll && olderThanMs !== undefined
        ? retrySchools(timing, polls, { bitErrorRate: Number(rate), silent, olderThanMs, poll })
        : [],
    [timing, polls, poll, silent, rate, olderThanMs],
  )
  const moved = useMemo(() => unitsToMove(timing, polls, WANTED_MS), [timing, polls])
  if (!poll) return null
  return (
    <div className="mt-4">
      <table className="text-row">
        <caption className="mb-1 text-left font-heavy">Tries after the first, on this line</caption>
        <thead className="text-left text-note text-ink-soft">
          <tr>
            {['Tries', 'Round, all answer', `Round, ${silent} silent`, `Older than ${older} ms`].map((head) => (
              <th key={head} className="pr-6 font-read">
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {schools.map((school) => (
            <tr key={school.retries} className={cn(school.retries === timing.retries && 'font-strong')}>
              <th scope="row" className="pr-6 text-left font-typed">
                {school.retries}
              </th>
              <td className="pr-6">{timeOr(school.roundMs)}</td>
              <td className="pr-6">{timeOr(school.silentRoundMs)}</td>
              <td className="pr-6">{shareText(school.olderShare)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className="mt-2 grid max-w-120 grid-cols-2 gap-3">
        <Choice label="Damaged on the way" value={rate} choices={rates} onChange={setRate} />
        <Field
          label="Its value older than, ms"
          typed
          inputMode="numeric"
          value={older}
          trouble={olderThan.ok ? undefined : olderThan.refusal}
          onChange={setOlder}
        />
      </div>
      <p className="mt-1.5 note">
        Rounds are worked out; how often its value is older is counted on one simulated hour of this line.
      </p>
      {moved !== undefined && moved.length > 0 && (
        <p className="mt-1.5 note">For a round within 1 s the fewest to move to another line: {moved.join(', ')}.</p>
      )}
    </div>
  )
}

const timeOr = (ms: number | undefined) => (ms === undefined ? 'never comes round' : roundedMs(ms))

/** A share of the simulated hour. */
function shareText(share: number): string {
  if (share === 0) return 'not once in an hour'
  return share < 1e-4 ? 'less than 0.01 % of the time' : `${Number((100 * share).toPrecision(2))} % of the time`
}
