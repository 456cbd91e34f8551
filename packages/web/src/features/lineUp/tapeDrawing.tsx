import { formatIpv4, octetsOf } from '@calm/core/address'
import type { Tape, Tick } from './tapeModel'

const STEP = 4
const TOP = 30
const BASE = 58

function TickMark({ tick, x }: { tick: Tick; x: number }) {
  switch (tick.state) {
    case 'used':
      return <path className="t-used" d={`M${x - 1} ${TOP}H${x + 5}V${BASE}H${x - 1}Z`} />
    case 'planned':
      return <path className="t-plan" d={`M${x - 0.25} ${TOP + 0.75}H${x + 4.25}V${BASE - 0.75}H${x - 0.25}Z`} />
    case 'twice':
      return (
        <path
          className="t-odds"
          d={`M${x - 5} ${TOP - 4}H${x + 1.2}V${BASE - 8}H${x - 5}ZM${x + 2.8} ${TOP + 4}H${x + 9}V${BASE}H${x + 2.8}Z`}
        />
      )
    case 'reserved':
    case 'gateway':
      return <path className="t-res" d={`M${x + 0.5} ${BASE - 11}H${x + 3.5}V${BASE}H${x + 0.5}Z`} />
    case 'dhcp':
      return <path className="t-lease-tick" d={`M${x + 1.5} ${TOP + 16}V${BASE - 4}`} />
    case 'free':
      return <path className="t-free" d={`M${x + 1} ${BASE - 5}H${x + 3}V${BASE}H${x + 1}Z`} />
  }
}

/** Labels that would touch are left out, those at odds last of all. */
function labels(
  ticks: readonly Tick[],
): readonly { readonly tick: Tick; readonly index: number; readonly x: number; readonly anchor: 'middle' | 'start' }[] {
  const placed: { tick: Tick; index: number; x: number; anchor: 'middle' | 'start'; left: number; right: number }[] = []
  const wanted = ticks
    .map((tick, index) => ({ tick, index }))
    .filter(({ tick }) => tick.tags.length > 0)
    .sort((a, b) => Number(b.tick.state === 'twice') - Number(a.tick.state === 'twice') || a.index - b.index)
  for (const { tick, index } of wanted) {
    const width = tick.state === 'twice' ? 74 : 8 * String(lastOctet(tick)).length + 2
    for (const nudge of [0, 8, 16, -8, -16]) {
      const x = index * STEP + 2 + nudge
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
export function TapeDrawing({ tape, onPick }: { tape: Tape; onPick: (deviceId: string) => void }) {
  const { ticks } = tape
  const width = ticks.length * STEP
  const leases = spans(ticks, 'dhcp')
  return (
    <svg
      className="tape-svg"
      viewBox={`-8 0 ${Math.max(width, 256) + 12} ${BASE + 22}`}
      role="group"
      aria-label={sentence(tape)}
    >
      {leases.map(([from, to]) => (
        <g key={from}>
          <path className="t-lease" d={`M${from * STEP} ${TOP + 8}V${BASE}H${(to + 1) * STEP}V${TOP + 8}`} />
          <text className="t-note" x={from * STEP + 4} y={TOP + 4}>
            DHCP, {lastOctet(ticks[from] as Tick)} to {lastOctet(ticks[to] as Tick)}
          </text>
        </g>
      ))}
      {spans(ticks, 'reserved').map(([from, to]) =>
        to - from > 5 ? (
          <text
            key={from}
            className="t-note"
            x={from * STEP + (from > ticks.length / 2 ? (to - from + 1) * STEP : 0)}
            textAnchor={from > ticks.length / 2 ? 'end' : 'start'}
            y={TOP + 4}
          >
            {to - from > 11 ? 'reserved' : ''}
          </text>
        ) : null,
      )}
      {ticks.map((tick, k) => (
        <g key={tick.address}>
          <TickMark tick={tick} x={k * STEP} />
          {tick.foundHere.length > 0 && <path className="t-here" d={`M${k * STEP + 2} ${TOP + 14}l4 6-4 6-4-6z`} />}
        </g>
      ))}
      {ticks.map((tick, k) =>
        tick.tags.length > 0 || tick.foundHere.length > 0 ? (
          <rect
            key={tick.address}
            className="tape-tick"
            x={k * STEP - 5}
            y={TOP - 8}
            width={14}
            height={BASE - TOP + 8}
            fill="transparent"
            onClick={() => tick.deviceIds[0] && onPick(tick.deviceIds[0])}
          >
            <title>{`${formatIpv4(tick.address)}: ${[...tick.tags, ...tick.foundHere.map((tag) => `${tag} found here, moving out`)].join(' and ')}`}</title>
          </rect>
        ) : null,
      )}
      {labels(ticks).map(({ tick, index, x, anchor }) => (
        <text
          key={index}
          className={`t-label ${tick.state === 'twice' ? 'odds' : ''}`}
          x={x}
          y={TOP - 8}
          textAnchor={anchor}
        >
          {lastOctet(tick)}
          {tick.state === 'twice' ? ' twice' : ''}
        </text>
      ))}
      <path className="t-axis" d={`M0 ${BASE + 0.75}H${width}`} />
      {ticks.map((tick, k) =>
        k % 16 === 0 || k === ticks.length - 1 ? (
          <g key={tick.address}>
            <path className="t-axis" d={`M${k * STEP + 2} ${BASE}V${BASE + 5}`} />
            <text
              className="t-note"
              x={k === ticks.length - 1 ? width : k * STEP + 2}
              y={BASE + 18}
              textAnchor={k === 0 ? 'start' : k === ticks.length - 1 ? 'end' : 'middle'}
            >
              {k === ticks.length - 1 && k % 16 !== 15 ? '' : lastOctet(tick)}
            </text>
          </g>
        ) : null,
      )}
    </svg>
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
