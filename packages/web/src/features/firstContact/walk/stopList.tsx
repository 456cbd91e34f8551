import { isByReason, type Stop } from '@calm/core/procedure'
import { useEffect, useRef } from 'react'
import { cn, Glyph } from '../../../ui'

interface StopListProps {
  readonly stops: readonly Stop[]
  readonly chosen: string | undefined
  readonly onChoose: (key: string) => void
}

/** Stops in their order, each with the reason it comes then. */
export function StopList({ stops, chosen, onChoose }: StopListProps) {
  const here = useRef<HTMLLIElement>(null)
  useEffect(() => {
    // On a phone the list lies below the step in hand: the page stays at the step.
    if (window.matchMedia('(min-width: 760px)').matches) here.current?.scrollIntoView({ block: 'nearest' })
  }, [chosen])
  return (
    <ol aria-label="Stops of the walk">
      {stops.map((stop) => (
        <li key={stop.key} ref={stop.key === chosen ? here : undefined}>
          <button
            type="button"
            className={cn(
              'flex w-full items-start gap-2.5 px-3.5 py-2 text-left hover:bg-ground-press',
              stop.key === chosen && 'bg-ground',
            )}
            aria-current={stop.key === chosen ? 'step' : undefined}
            onClick={() => onChoose(stop.key)}
          >
            <span className="mt-0.5">
              <Glyph state={stateOf(stop, stop.key === chosen)} size={16} />
            </span>
            <span>
              <b className="block text-row leading-snug font-heavy">{stop.title}</b>
              <span className="block text-note leading-snug text-ink-soft">
                {stop.held ? `Waits. ${stop.held.why}` : stop.reason}
              </span>
            </span>
          </button>
        </li>
      ))}
    </ol>
  )
}

function stateOf(stop: Stop, chosen: boolean): React.ComponentProps<typeof Glyph>['state'] {
  if (stop.held && stop.state !== 'settled') return 'waiting'
  if (stop.steps.some((step) => step.record?.state === 'waiting')) return 'waiting'
  if (stop.steps.some((step) => step.record?.state === 'unexpected')) return 'at-odds'
  if (stop.state === 'settled') return isByReason(stop) ? 'parked' : 'proven'
  return stop.state === 'begun' || chosen ? 'in-hand' : 'not-started'
}
