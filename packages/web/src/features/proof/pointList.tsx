import type { Handshake, Point } from '@calm/core/job'
import type { Ladder, PointOnRung, RungState } from '@calm/core/ladder'
import { formatNumber } from '@calm/core/values'
import { Plus } from 'lucide-react'
import { Tabs } from 'radix-ui'
import { ageText, staleMs } from '@calm/core/path'
import { serverNow, type ReadingsByPoint, type TimedReading } from '../../api'
import { useNow } from '../../shell'
import { cn, Glyph } from '../../ui'

const glyphOf: Readonly<Record<PointOnRung['state'], RungState>> = {
  proven: 'proven',
  'at-odds': 'at-odds',
  changed: 'in-hand',
  open: 'not-started',
}

/** How a point stands on the rung that asks for every one of them. */
function standingOf(point: Point, ladder: Ladder): RungState {
  if (!point.asked) return 'not-apply'
  const on = ladder.rungs.flatMap((rung) => rung.points).find((each) => each.id === point.id)
  return on ? glyphOf[on.state] : 'not-started'
}

interface PointListProps {
  readonly handshake: Handshake
  readonly ladder: Ladder
  readonly readings: ReadingsByPoint
  readonly onAdd: () => void
}

/** The points of a handshake, each with what the device shows now; the arrow keys go from one to the next. */
export function PointList({ handshake, ladder, readings, onAdd }: PointListProps) {
  const now = serverNow(useNow(Object.keys(readings).length > 0))
  return (
    <div className="flex flex-none flex-col gap-0.5 border-rule phone:w-52 phone:border-r phone:pr-3">
      <Tabs.List aria-label="Points" className="flex flex-col gap-0.5">
        {handshake.points.map((point) => (
          <PointTab
            key={point.id}
            point={point}
            state={standingOf(point, ladder)}
            reading={readings[point.id]?.device}
            now={now}
          />
        ))}
      </Tabs.List>
      <button
        type="button"
        className="mt-1 flex items-center gap-1.5 px-2 py-1 text-left text-ink-soft hover:text-ink"
        onClick={onAdd}
      >
        <Plus size={15} aria-hidden /> Add a point
      </button>
    </div>
  )
}

interface PointTabProps {
  readonly point: Point
  readonly state: RungState
  readonly reading: TimedReading | undefined
  readonly now: number
}

function PointTab({ point, state, reading, now }: PointTabProps) {
  const value = reading?.value ?? null
  const stale = reading && value !== null ? staleMs(reading.at, reading.interval, now) : undefined
  return (
    <Tabs.Trigger
      value={point.id}
      data-point={point.tag}
      className="grid grid-cols-[18px_1fr_auto] items-center gap-x-2 rounded-sm px-2 py-1 text-left data-[state=active]:bg-ground"
    >
      <Glyph state={state} size={15} label />
      <span className="leading-tight font-heavy wrap-anywhere">{point.quantity}</span>
      <span className={cn('font-typed text-note', stale !== undefined && 'text-odds')}>
        {value === null ? '–' : formatNumber(value, point.decimals)} {value !== null && point.unit}
      </span>
      {stale !== undefined && (
        <span className="col-span-2 col-start-2 text-note text-odds">stale, read {ageText(stale)} ago</span>
      )}
      {!point.asked && <span className="col-span-2 col-start-2 note">need not be proven</span>}
    </Tabs.Trigger>
  )
}
