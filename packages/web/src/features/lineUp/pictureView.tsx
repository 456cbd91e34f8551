import { Button, cn, tip } from '../../ui'
import type { Job } from '@calm/core/job'
import { topologyOf, type TopologyBox } from '@calm/core/lineUp'
import { useMemo, useState } from 'react'
import { troubledDevices } from '../../job'
import { useStage } from '../../shell'
import { useLayout, type LaidOut, type Placed } from '../../workers'

interface ViewProps {
  readonly head: React.ReactNode
  readonly job: Job
  readonly selectedId: string | undefined
  readonly onPick: (deviceId: string) => void
}

/** Who hangs behind whom, laid out by a library; picking a device picks it in the table. */
export function PictureView({ head, job, selectedId, onPick }: ViewProps) {
  const { findings } = useStage()
  const [unfolded, setUnfolded] = useState<ReadonlySet<string>>(new Set())
  const topology = useMemo(() => topologyOf(job, unfolded), [job, unfolded])
  const laidOut = useLayout(topology)
  const troubled = useMemo(() => troubledDevices(job, findings), [job, findings])
  const press = (box: TopologyBox) => {
    const [first] = box.deviceIds
    if (box.what === 'many') setUnfolded(new Set([...unfolded, box.id]))
    else if (box.what === 'device' && first) onPick(first)
  }
  return (
    <section className="col-span-full [grid-row:1_/_-1] min-w-0 overflow-auto px-5 pb-5" aria-label="Picture">
      <div className="sticky top-0 z-6 flex min-h-13 flex-wrap items-center gap-0 bg-sheet pr-3.5">
        {head}
        {unfolded.size > 0 && (
          <div className="flex min-h-9.5 w-full items-center gap-2.5 pb-1">
            <Button look="plain" onClick={() => setUnfolded(new Set())}>
              Take what is alike together again
            </Button>
          </div>
        )}
      </div>
      {topology.boxes.length === 0 && <p className="mt-4 text-ink-soft">Nothing to draw yet.</p>}
      {laidOut && topology.boxes.length > 0 && (
        <svg
          className="mt-2 block max-w-none"
          width={laidOut.width}
          height={laidOut.height}
          viewBox={`0 0 ${laidOut.width} ${laidOut.height}`}
          role="group"
          aria-label={`${job.networks.length} networks, ${job.lines.length} lines, ${job.devices.length} devices`}
        >
          <Links laidOut={laidOut} />
          {topology.boxes.map((box) => {
            const place = laidOut.boxes[box.id]
            return place ? (
              <Box
                key={box.id}
                box={box}
                place={place}
                atOdds={box.deviceIds.some((id) => troubled.has(id))}
                selected={box.what === 'device' && box.id === selectedId}
                onPress={() => press(box)}
              />
            ) : null
          })}
        </svg>
      )}
    </section>
  )
}

function Links({ laidOut }: { laidOut: LaidOut }) {
  return laidOut.links.map(({ from, to, points, by }, k) => {
    const target = laidOut.boxes[to]
    const path = points.map(([x, y], n) => `${n === 0 ? 'M' : 'L'}${x} ${y}`).join('')
    return (
      <g key={`${from}${to}${k}`} aria-hidden="true">
        <path className="fill-none stroke-ink-faint stroke-[1.3]" d={path} />
        {by !== '' && target && (
          <text
            className="fill-ink-soft font-typed text-[12px] font-medium"
            x={target.x - target.width / 2 - 6}
            y={target.y - 5}
            textAnchor="end"
          >
            {by}
          </text>
        )}
      </g>
    )
  })
}

interface BoxProps {
  readonly box: TopologyBox
  readonly place: Placed
  readonly atOdds: boolean
  readonly selected: boolean
  readonly onPress: () => void
}

const cut = (text: string, most: number) => (text.length > most ? `${text.slice(0, most - 1)}…` : text)

function Box({ box, place, atOdds, selected, onPress }: BoxProps) {
  const { x, y, width, height } = place
  const canPress = box.what === 'device' || box.what === 'many'
  const left = x - width / 2
  const top = y - height / 2
  const says = `${box.name}, ${box.more}${atOdds ? ', at odds' : ''}`
  return (
    <g
      className={cn(canPress && 'group cursor-pointer')}
      {...tip(says)}
      {...(canPress && {
        role: 'button',
        tabIndex: 0,
        'aria-label': says,
        'aria-pressed': selected,
        onClick: onPress,
        onKeyDown: (event: React.KeyboardEvent) => {
          if (event.key !== 'Enter' && event.key !== ' ') return
          event.preventDefault()
          event.stopPropagation()
          onPress()
        },
      })}
    >
      <rect
        className={cn(
          'stroke-[1.2] group-hover:fill-ground',
          box.what === 'network' || box.what === 'line' ? 'fill-ground' : 'fill-sheet',
          canPress ? 'stroke-ink' : 'stroke-ink-faint',
          box.what === 'many' && '[stroke-dasharray:5_3]',
          selected && 'stroke-3',
        )}
        x={left}
        y={top}
        width={width}
        height={height}
        rx={box.what === 'network' ? height / 2 : 3}
      />
      {atOdds && <path className="fill-odds-mark" d={`M${left} ${top}h5v${height}h-5z`} />}
      <text className="fill-ink font-text text-typed font-heavy" x={left + 14} y={box.what === 'many' ? y + 5 : y - 3}>
        {cut(box.name, 22)}
      </text>
      {box.what !== 'many' && (
        <text className="fill-ink-soft font-text text-[12px] font-read" x={left + 14} y={y + 13}>
          {cut(box.more, 22)}
        </text>
      )}
    </g>
  )
}
