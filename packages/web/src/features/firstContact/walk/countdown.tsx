import { watchedAddress, type WalkStep } from '@calm/core/procedure'
import { clockText, useNow } from '../../../shell'

/** The time that is left, large; it runs on the server and rings by itself. */
export function Countdown({ step }: { step: WalkStep }) {
  const wait = step.record?.wait
  const now = useNow(true)
  if (!wait) return null
  const left = wait.seconds - (now - wait.startedAt) / 1000
  const address = watchedAddress(wait)
  const tries = wait.triesAfter === 1 ? '1 try' : `${wait.triesAfter} tries`
  return (
    <div role="timer" aria-label="Time left">
      <b className="font-text text-clock leading-tight font-heavy tabular-nums">
        {left >= 0 ? clockText(left) : `+${clockText(-left)}`}
      </b>
      <p>
        {wait.watch && address
          ? `${address} is looked at by itself${left < 0 ? `; ${tries} since the time was over` : ''}.`
          : 'It rings when the time is over.'}
      </p>
      {wait.watch === 'gone-and-back' && (
        <p>
          {wait.seenGoneAt === null
            ? 'It still answers: it has not gone yet.'
            : 'It is gone, and looked for until it answers again.'}
        </p>
      )}
    </div>
  )
}
