import { cn, tip } from '../../../ui'
import { formatIpv4, octetsOf } from '@calm/core/address'
import { memo, useState } from 'react'
import type { Tape, Tick } from './tapeModel'

/** A mark is this wide; the ruler of a small network has more room between them. */
const MARK = 4
const stepFor = (count: number): number => Math.max(MARK, Math.min(36, Math.floor(1024 / count)))
const TOP = 30
const BASE = 58

function TickMark({ tick, x }: { tick: Tick; x: number }) {
  switch (tick.state) {
    case 'used':
      return <path className="fill-proven" d={`M${x - 1} ${TOP}H${x + 5}V${BASE}H${x - 1}Z`} />
    case 'planned':
      return (
        <path
          className="fill-sheet stroke-ink stroke-[1.5]"
          d={`M${x - 0.25} ${TOP + 0.75}H${x + 4.25}V${BASE - 0.75}H${x - 0.25}Z`}
        />
      )
    case 'twice':
      return (
        <path
          className="fill-odds-mark"
          d={`M${x - 5} ${TOP - 4}H${x + 1.2}V${BASE - 8}H${x - 5}ZM${x + 2.8} ${TOP + 4}H${x + 9}V${BASE}H${x + 2.8}Z`}
        />
      )
    case 'reserved':
    case 'gateway':
      return <path className="fill-ink-faint" d={`M${x + 0.5} ${BASE - 11}H${x + 3.5}V${BASE}H${x + 0.5}Z`} />
    case 'dhcp':
      return <path className="stroke-ink-faint stroke-[1.2] opacity-70" d={`M${x + 1.5} ${TOP + 16}V${BASE - 4}`} />
    case 'free':
      return <path className="fill-rule-strong opacity-70" d={`M${x + 1} ${BASE - 5}H${x + 3}V${BASE}H${x + 1}Z`} />
  }
}

/** Labels that would touch are left out, those at odds last of all. */
function labels(
  ticks: readonly Tick[],
  at: (index: number) => number,
): readonly { readonly tick: Tick; readonly index: number; readonly x: number; readonly anchor: 'middle' | 'start' }[] {
  const placed: { tick: Tick; index: number; x: number; anchor: 'middle' | 'start'; left: number; right: number }[] = []
  const wanted = ticks
    .map((tick, index) => ({ tick, index }))
    .filter(({ tick }) => tick.tags.length > 0)
    .sort((a, b) => Number(b.tick.state === 'twice') - Number(a.tick.state === 'twice') || a.index - b.index)
  for (const { tick, index } of wanted) {
    const width = tick.state === 'twice' ? 74 : 8 * String(lastOctet(tick)).length + 2
    for (const nudge of [0, 8, 16, -8, -16]) {
      const x = at(index) + 2 + nudge
      const left = tick.state === 'twice' ? x - 8 : x - width / 2
      const right = left + width
      if (placed.some((other) => left < other.right + 2 && right > other.left - 2)) continue
      placed.push({
        tick,
        index,
        x: tick.state === 'twice' ? left : x,
        anchor: tick.state === 'twice' ? 'start' : 'middle',
        left,
        right,
      })
      break
    }
  }
  return placed
}

const lastOctet = (tick: Tick) => octetsOf(tick.address)[3]

/** The ruler of addresses. A tick that is somebody's can be pressed; the whole is told in one sentence. */
export const TapeDrawing = memo(function TapeDrawing({
  tape,
  onPick,
}: {
  tape: Tape
  onPick: (deviceId: string) => void
}) {
  const { ticks } = tape
  const step = stepFor(ticks.length)
  const at = (index: number) => index * step + (step - MARK) / 2
  const width = ticks.length * step
  const every = ticks.length > 32 ? 16 : 4
  const leases = spans(ticks, 'dhcp')
  return (
    <svg
      className="block h-auto w-full"
      viewBox={`-8 0 ${Math.max(width, 1024) + 12} ${BASE + 22}`}
      role="group"
      aria-label={sentence(tape)}
    >
      {leases.map(([from, to]) => (
        <g key={from}>
          <path
            className="fill-none stroke-ink-faint stroke-[1.2]"
            d={`M${from * step} ${TOP + 8}V${BASE}H${(to + 1) * step}V${TOP + 8}`}
          />
          <text className="fill-ink-soft font-text text-note font-read" x={from * step + 4} y={TOP + 4}>
            DHCP, {lastOctet(ticks[from] as Tick)} to {lastOctet(ticks[to] as Tick)}
          </text>
        </g>
      ))}
      {spans(ticks, 'reserved').map(([from, to]) =>
        to - from > 5 ? (
          <text
            key={from}
            className="fill-ink-soft font-text text-note font-read"
            x={from * step + (from > ticks.length / 2 ? (to - from + 1) * step : 0)}
            textAnchor={from > ticks.length / 2 ? 'end' : 'start'}
            y={TOP + 4}
          >
            {to - from > 11 ? 'reserved' : ''}
          </text>
        ) : null,
      )}
      {ticks.map((tick, k) => (
        <g key={tick.address}>
          <TickMark tick={tick} x={at(k)} />
          {tick.foundHere.length > 0 && <path className="fill-ink" d={`M${at(k) + 2} ${TOP + 14}l4 6-4 6-4-6z`} />}
        </g>
      ))}
      {ticks.map((tick, k) =>
        tick.tags.length > 0 || tick.foundHere.length > 0 ? (
          <rect
            key={tick.address}
            className="cursor-pointer outline-offset-1"
            x={at(k) - 5}
            y={TOP - 8}
            width={14}
            height={BASE - TOP + 8}
            fill="transparent"
            data-tick
            {...tip(
              `${formatIpv4(tick.address)}: ${[...tick.tags, ...tick.foundHere.map((tag) => `${tag} found here, moving out`)].join(' and ')}`,
            )}
            onClick={() => tick.deviceIds[0] && onPick(tick.deviceIds[0])}
          />
        ) : null,
      )}
      {labels(ticks, at).map(({ tick, index, x, anchor }) => (
        <text
          key={index}
          className={cn('fill-ink font-typed text-note font-heavy', tick.state === 'twice' && 'fill-odds')}
          x={x}
          y={TOP - 8}
          textAnchor={anchor}
        >
          {lastOctet(tick)}
          {tick.state === 'twice' ? ' twice' : ''}
        </text>
      ))}
      <path className="fill-none stroke-ink-faint" d={`M0 ${BASE + 0.75}H${width}`} />
      <TapeCursor tape={tape} at={at} onPick={onPick} />
      {ticks.map((tick, k) =>
        k % every === 0 || k === ticks.length - 1 ? (
          <g key={tick.address}>
            <path className="fill-none stroke-ink-faint" d={`M${at(k) + 2} ${BASE}V${BASE + 5}`} />
            <text
              className="fill-ink-soft font-text text-note font-read"
              x={k === ticks.length - 1 ? width : at(k) + 2}
              y={BASE + 18}
              textAnchor={k === 0 ? 'start' : k === ticks.length - 1 ? 'end' : 'middle'}
            >
              {k === ticks.length - 1 && k % every !== every - 1 ? '' : lastOctet(tick)}
            </text>
          </g>
        ) : null,
      )}
    </svg>
  )
})

/** What stands at one address, in words. */
function tickWords({ address, state, tags, foundHere }: Tick): string {
  const words: Readonly<Record<Tick['state'], string>> = {
    used: 'in use by',
    planned: 'planned for',
    twice: 'wanted twice, by',
    reserved: 'reserved',
    dhcp: 'in the DHCP range',
    gateway: 'the gateway',
    free: 'free',
  }
  const who = tags.length > 0 ? ` ${tags.join(' and ')}` : ''
  const found = foundHere.length > 0 ? `; ${foundHere.join(', ')} found here, moving out` : ''
  return `${formatIpv4(address)}: ${words[state]}${who}${found}`
}

interface CursorProps {
  readonly tape: Tape
  readonly at: (index: number) => number
  readonly onPick: (deviceId: string) => void
}

/** Goes from address to address by the arrow keys and says what stands there; Enter picks the device. */
function TapeCursor({ tape: { ticks, window }, at, onPick }: CursorProps) {
  const [index, setIndex] = useState(0)
  const [open, setOpen] = useState(false)
  const here = Math.min(index, ticks.length - 1)
  const tick = ticks[here]
  if (!tick) return null
  const next = (by: 1 | -1) => {
    for (let k = here + by; k >= 0 && k < ticks.length; k += by) if (ticks[k]?.tags.length) return k
    return here
  }
  const moves: Readonly<Record<string, number>> = {
    ArrowRight: here + 1,
    ArrowLeft: here - 1,
    ArrowUp: next(1),
    ArrowDown: next(-1),
    Home: 0,
    End: ticks.length - 1,
  }
  const x = at(here) + 2
  const right = here > ticks.length * 0.7
  return (
    <g
      className="group outline-none"
      role="slider"
      tabIndex={0}
      aria-label="Address"
      aria-valuemin={window.first}
      aria-valuemax={window.last}
      aria-valuenow={tick.address}
      aria-valuetext={tickWords(tick)}
      onFocus={() => setOpen(true)}
      onBlur={() => setOpen(false)}
      onKeyDown={(event) => {
        const move = moves[event.key]
        const [first] = tick.deviceIds
        if (move !== undefined) setIndex(Math.max(0, Math.min(ticks.length - 1, move)))
        else if ((event.key === 'Enter' || event.key === ' ') && first) onPick(first)
        else return
        event.preventDefault()
        event.stopPropagation()
      }}
    >
      <path className="fill-transparent group-focus:fill-ink" d={`M${x} ${BASE + 1}l5 8h-10z`} />
      {open && (
        <text
          className="fill-ink font-text text-note font-heavy"
          x={right ? x + 6 : x - 6}
          y={12}
          textAnchor={right ? 'end' : 'start'}
        >
          {tickWords(tick)}
        </text>
      )}
    </g>
  )
}

/** First and last index of each run of ticks in one state; a device in the middle does not end a run. */
function spans(ticks: readonly Tick[], state: Tick['state']): readonly (readonly [number, number])[] {
  const found: [number, number][] = []
  ticks.forEach((tick, k) => {
    if (tick.state !== state) return
    const last = found.at(-1)
    if (last && k - last[1] <= 2) last[1] = k
    else found.push([k, k])
  })
  return found
}

function sentence({ window, ticks, freeCount: free }: Tape): string {
  const list = (state: Tick['state']) =>
    ticks
      .filter((tick) => tick.state === state)
      .map(lastOctet)
      .join(', ') || 'none'
  const found = ticks
    .filter((tick) => tick.foundHere.length > 0)
    .map((tick) => `${tick.foundHere.join(', ')} at ${lastOctet(tick)}`)
  return `Addresses ${formatIpv4(window.first)} to ${formatIpv4(window.last)}. In use: ${list('used')}. Planned: ${list('planned')}. Wanted twice: ${list('twice')}. Found here, moving out: ${found.join('; ') || 'none'}. ${free} free.`
}
