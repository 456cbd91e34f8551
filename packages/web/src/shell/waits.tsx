import { watchedAddress, type WalkRecord } from '@calm/core/procedure'
import { useEffect, useState } from 'react'
import { useParams, NavLink } from 'react-router'
import { Glyph } from '../ui'

/** The time now, once a second while something runs. */
export function useNow(running: boolean): number {
  const [now, setNow] = useState(() => Date.now())
  useEffect(() => {
    if (!running) return undefined
    setNow(Date.now())
    const timer = setInterval(() => setNow(Date.now()), 500)
    return () => clearInterval(timer)
  }, [running])
  return now
}

/** Minutes and seconds. @example clockText(125) // '2:05' */
export const clockText = (seconds: number): string =>
  `${Math.floor(Math.max(0, seconds) / 60)}:${String(Math.floor(Math.max(0, seconds) % 60)).padStart(2, '0')}`

/** Timers that run, at the foot of the walk. */
export function Waits({ walk }: { walk: WalkRecord | undefined }) {
  const { jobId = '' } = useParams()
  const waits = walk?.steps.filter((step) => step.state === 'waiting' && step.wait) ?? []
  const now = useNow(waits.length > 0)
  if (waits.length === 0) return null
  return (
    <>
      <p className="text-note text-ink-soft">Waiting on</p>
      <ul className="mb-3 font-typed text-row leading-normal font-medium tracking-[-0.02em]">
        {waits.slice(0, 3).map(({ id, wait }) => (
          <li key={id}>
            <NavLink
              to={`/jobs/${jobId}/first-contact`}
              className="flex items-center gap-1.5 tabular-nums no-underline"
            >
              <Glyph state="waiting" size={14} />
              {wait && clockText(wait.seconds - (now - wait.startedAt) / 1000)} {wait && watchedAddress(wait)}
            </NavLink>
          </li>
        ))}
      </ul>
    </>
  )
}
