import { cn, tip } from '../../../ui'
import { formatIpv4, ipv4FromBits } from '@calm/core/address'
import type { Tape } from './tapeModel'

/** Bars that a large network is shown in; more pieces than these are taken together. */
const BARS = 128

/** A large network from end to end: where something is planned, and which piece the ruler shows. */
export function TapeOverview({ tape, onGo }: { tape: Tape; onGo: (index: number) => void }) {
  const perBar = Math.ceil(tape.windowCount / BARS)
  const bars = Array.from({ length: Math.ceil(tape.windowCount / perBar) }, (_, k) => {
    const part = tape.windows.slice(k * perBar, (k + 1) * perBar)
    const busiest = part.findIndex((window) => window.count > 0)
    return {
      count: part.reduce((sum, window) => sum + window.count, 0),
      atOdds: part.some((window) => window.atOdds),
      index: k * perBar + Math.max(0, busiest),
      shown: tape.windowIndex >= k * perBar && tape.windowIndex < (k + 1) * perBar,
    }
  })
  const first = (tape.window.first - tape.windowIndex * 256) >>> 0
  return (
    <div className="mt-1 mb-0.5 flex h-3.5 gap-0.25" role="group" aria-label="Pieces of the network">
      {bars.map((bar) => {
        const from = formatIpv4(ipv4FromBits(first + bar.index * 256))
        return (
          <button
            key={bar.index}
            type="button"
            className={cn(
              'min-w-0 flex-1 aria-pressed:outline-2 aria-pressed:outline-offset-1 aria-pressed:outline-ink',
              bar.atOdds ? 'bg-odds-mark' : bar.count > 0 ? 'bg-proven' : 'bg-rule',
            )}
            aria-pressed={bar.shown}
            {...tip(`From ${from}: ${bar.count} planned`)}
            aria-label={`From ${from}: ${bar.count} planned${bar.atOdds ? ', one wanted twice' : ''}`}
            onClick={() => onGo(bar.index)}
          />
        )
      })}
    </div>
  )
}
