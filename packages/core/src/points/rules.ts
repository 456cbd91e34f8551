import { handshakeTermsOf, type Handshake, type Job, type Point } from '../job'
import { limits, serialUnit, tableOfFunction, tables, type Table } from '../modbus'
import { readPlanOf } from '../terms'
import { readLargest } from './largest'
import { allowedDifference, bitsTaken, wholeRanges } from '../values'
import { placesOf, type PointPlace } from './place'

/** How much a finding of a point matters. */
export type PointSeverity = 'will-not-work' | 'worth-knowing'

/** A point with its place, as rules look at it. */
export interface PlacedPoint extends PointPlace {
  readonly point: Point
}

/** What the device takes, and what its controller asks, as far as points are judged by it. */
export interface PointLimits {
  /** Longer values begin at even addresses only. */
  readonly evenOnly: boolean
  /** Highest address that the device has; `null` where nobody says it. */
  readonly lastAddress: number | null
  /** Registers in one answer; `undefined` where nobody says it. */
  readonly largest: number | undefined
  /** What the controller asks, as its terms stand; `undefined` where they do not say it. */
  readonly request: { readonly table: Table; readonly first: number; readonly count: number } | undefined
}

/** A device of which nobody says anything beyond the standard. */
export const noLimits: PointLimits = { evenOnly: false, lastAddress: null, largest: undefined, request: undefined }

/** One rule about a point. `others` are the points of the same device that begin near it. */
export interface PointRule {
  readonly id: string
  readonly title: string
  readonly severity: PointSeverity
  readonly summary: string
  readonly source: string
  /** What is wrong, in a sentence; `undefined` where nothing is. */
  readonly check: (
    placed: PlacedPoint,
    others: readonly PlacedPoint[],
    limits: PointLimits,
  ) => string | BetweenTwo | undefined
}

/** What is wrong between two points: each is marked by it. */
interface BetweenTwo {
  readonly say: string
  readonly withId: string
}

const text = (value: number) => String(Number(value.toPrecision(7)))

export const pointRules: readonly PointRule[] = [
  {
    id: 'point.overlap',
    title: 'Shares registers with another',
    severity: 'will-not-work',
    summary:
      'Two values that are no bits of one register cannot lie in the same registers: one of the two is read from the wrong place.',
    source: 'common practice, no source',
    check: ({ point, address, size, table, plan }, others) => {
      const other = others.find(
        (each) =>
          comesBefore(each, { address, point }) &&
          each.table === table &&
          each.address < address + size &&
          address < each.address + each.size &&
          !(each.address === address && size === 1 && each.size === 1 && areApart(each.plan, plan)),
      )
      return (
        other && {
          say: `${point.quantity} and ${other.point.quantity} share registers: ${span(address, size)} and ${span(other.address, other.size)}.`,
          withId: other.point.id,
        }
      )
    },
  },
  {
    id: 'point.end',
    title: 'Beyond the last address',
    severity: 'will-not-work',
    summary: 'A value ends at address 65 535 at the latest.',
    source: 'Modbus Application Protocol V1.1b3, 4.4',
    check: ({ address, size, point }) =>
      address + size - 1 > limits.lastAddress
        ? `${point.quantity} takes ${span(address, size)}; the last address is ${limits.lastAddress}.`
        : undefined,
  },
  {
    id: 'point.beyond-device',
    title: 'Beyond what the device has',
    severity: 'will-not-work',
    summary:
      'A value ends at the highest address of its device at the latest: beyond it the device answers exception 2.',
    source: 'Modbus Application Protocol V1.1b3, 7',
    check: ({ address, size, point }, _others, { lastAddress }) =>
      lastAddress !== null && address + size - 1 > lastAddress
        ? `${point.quantity} takes ${span(address, size)}; the device ends at ${lastAddress}.`
        : undefined,
  },
  {
    id: 'point.odd',
    title: 'At an odd address',
    severity: 'will-not-work',
    summary: 'Some devices keep values of two registers and more at even addresses only, and refuse or cut others.',
    source: 'common practice, no source',
    check: ({ address, size, table, point }, _others, { evenOnly }) =>
      evenOnly && tables[table].bits === 16 && size > 1 && address % 2 === 1
        ? `${point.quantity} takes ${span(address, size)}; longer values of this device begin at even addresses. Its neighbours are ${address - 1} and ${address + 1}.`
        : undefined,
  },
  {
    id: 'point.longer',
    title: 'Longer than one answer',
    severity: 'will-not-work',
    summary:
      'A value that needs more registers than the device gives in one answer comes in two that may not belong together.',
    source: 'common practice, no source',
    check: ({ size, table, point }, _others, { largest }) =>
      largest !== undefined && tables[table].bits === 16 && size > largest
        ? `${point.quantity} takes ${size} registers; the device gives ${largest} in one answer.`
        : undefined,
  },
  {
    id: 'point.cut',
    title: 'Cut by the edge of a request',
    severity: 'will-not-work',
    summary: 'What the controller asks ends inside the value: its last registers come with another request, or never.',
    source: 'common practice, no source',
    check: ({ address, size, table, point }, _others, { request }) => {
      if (!request || request.table !== table) return undefined
      const end = request.first + request.count
      return address >= request.first && address < end && address + size > end
        ? `${point.quantity} takes ${span(address, size)}; the controller asks ${span(request.first, request.count)}.`
        : undefined
    },
  },
  {
    id: 'point.read-only',
    title: 'Written where nothing can be written',
    severity: 'will-not-work',
    summary: 'Input registers and discrete inputs are read only.',
    source: 'Modbus Application Protocol V1.1b3, 4.3',
    check: ({ point, table }) =>
      point.access !== 'read' && !tables[table].writable
        ? `${point.quantity} goes to the device, and ${tables[table].one} can only be read.`
        : undefined,
  },
  {
    id: 'point.moves',
    title: 'Nobody said what it may move',
    severity: 'worth-knowing',
    summary: 'Whoever writes a value must know what it moves, opens or stops, before anything is written.',
    source: 'common practice, no source',
    check: ({ point }) =>
      point.access !== 'read' && point.moves.trim() === ''
        ? `${point.quantity} goes to the device, and what it may move is not written down.`
        : undefined,
  },
  {
    id: 'point.range-reversed',
    title: 'Range the wrong way round',
    severity: 'will-not-work',
    summary: 'The lowest value is below the highest.',
    source: 'common practice, no source',
    check: ({ point: { low, high, quantity } }) =>
      low !== null && high !== null && low >= high ? `${quantity} ranges from ${low} to ${high}.` : undefined,
  },
  {
    id: 'point.range-held',
    title: 'Type and scale cannot hold the range',
    severity: 'will-not-work',
    summary: 'A whole number at its scale reaches only so far; beyond it the value wraps or stands at its end.',
    source: 'Modbus Application Protocol V1.1b3, 4.2 (16 bits); two’s complement',
    check: ({ point: { low, high, quantity, unit }, plan }) => {
      const range = wholeRanges[plan.format.type]
      if (!range || low === null || high === null || low >= high) return undefined
      const ends = range.map((raw) => Number(raw) * plan.scale + plan.offset)
      const [least, most] = [Math.min(...ends), Math.max(...ends)]
      return low < least || high > most
        ? `${quantity} ranges from ${low} to ${high} ${unit}; ${plan.format.type} at ${plan.scale} holds ${text(least)} to ${text(most)}.`
        : undefined
    },
  },
  {
    id: 'point.resolution',
    title: 'Coarser than its tolerance',
    severity: 'worth-knowing',
    summary:
      'A step of the raw number is larger than the difference that is allowed: a right value may lie outside by rounding alone.',
    source: 'common practice, no source',
    check: ({ point, plan }) => {
      if (!(plan.format.type in wholeRanges) || point.reference === null) return undefined
      const allowed = allowedDifference(point.tolerance, point.reference.value)
      const step = Math.abs(plan.scale)
      // Rounded to the nearest step a value is off by half of one.
      return step / 2 > allowed
        ? `${point.quantity} comes in steps of ${text(step)} ${point.unit}; ${text(allowed)} are allowed.`
        : undefined
    },
  },
]

/** Of two that share registers the one behind is named, so that each pair is told once. */
const comesBefore = (a: Pick<PlacedPoint, 'address' | 'point'>, b: Pick<PlacedPoint, 'address' | 'point'>): boolean =>
  a.address < b.address || (a.address === b.address && a.point.id < b.point.id)

/** Bits and bytes share a register without sharing what they are made of; one bit may be wanted under two names. */
function areApart(one: PointPlace['plan'], other: PointPlace['plan']): boolean {
  const [a, b] = [one, other].map(({ format }) => bitsTaken(format.type, format.bit)) as [number, number]
  return (a & b) === 0 || (one.format.type === 'bool' && other.format.type === 'bool')
}
const span = (address: number, size: number): string =>
  size === 1 ? `address ${address}` : `addresses ${address} to ${address + size - 1}`

/** One thing about a point that is not as it should be. */
export interface PointFinding {
  readonly rule: string
  readonly pointId: string
  /** The other point that it is about, where it is about two. */
  readonly withId?: string
  readonly severity: PointSeverity
  readonly title: string
  readonly say: string
}

/** Findings of all points of a handshake, and how many had a place to be looked at. */
export interface PointFindings {
  readonly findings: readonly PointFinding[]
  readonly looked: number
  readonly unplaced: number
}

/** What a handshake's points were found to be, as long as nothing changes that they rest on. */
const known = new WeakMap<Handshake, { readonly on: readonly unknown[]; readonly is: PointFindings }>()

/** Findings of all points of a handshake; computed again only where the handshake or the line-up changed. */
export function checkPoints(job: Job, handshake: Handshake): PointFindings {
  const on = [job.devices, job.lines, job.networks, job.kinds]
  const before = known.get(handshake)
  if (before && before.on.every((each, k) => each === on[k])) return before.is
  const is = checkNow(job, handshake)
  known.set(handshake, { on, is })
  return is
}

function checkNow(job: Job, handshake: Handshake): PointFindings {
  const places = placesOf(job, handshake)
  const placed = handshake.points
    .flatMap((point, k): readonly PlacedPoint[] => {
      const place = places[k]
      return !place || 'missing' in place ? [] : [{ ...place, point }]
    })
    .sort((a, b) => a.address - b.address)
  return {
    findings: [...findingsOf(placed, limitsOf(job, handshake)), ...namedTwice(handshake)],
    looked: placed.length,
    unplaced: handshake.points.length - placed.length,
  }
}

/** What the device takes and what its controller asks, by the handshake's own row and its terms. */
function limitsOf(job: Job, handshake: Handshake): PointLimits {
  // What is asked does not hang on the way that it goes.
  const plan = readPlanOf(handshakeTermsOf(job, handshake), 'controller', null, ANY_WAY)
  const table = plan.ok ? tableOfFunction(plan.value.request.code) : undefined
  return {
    evenOnly: handshake.evenOnly,
    lastAddress: handshake.lastAddress,
    largest: readLargest(job, handshake),
    request:
      plan.ok && table ? { table, first: plan.value.request.address, count: plan.value.request.count } : undefined,
  }
}
const ANY_WAY = { protocol: 'modbus-rtu', line: '', path: '', settings: '', unit: serialUnit(1) } as const

/** Longest value: four registers, or a text; whoever begins farther off than this cannot reach. */
const NEAR = 125

/** Every rule at every point; sorted by address, so that only neighbours are held against one another. */
export function findingsOf(placed: readonly PlacedPoint[], limits: PointLimits = noLimits): readonly PointFinding[] {
  let from = 0
  return placed.flatMap((each, k) => {
    while ((placed[from] as PlacedPoint).address < each.address - NEAR) from += 1
    let to = k
    while (to < placed.length && (placed[to] as PlacedPoint).address < each.address + each.size) to += 1
    const near = placed.slice(from, to)
    return pointRules.flatMap((rule) => {
      const found = rule.check(each, near, limits)
      if (found === undefined) return []
      const told = typeof found === 'string' ? { say: found } : found
      return [{ rule: rule.id, pointId: each.point.id, severity: rule.severity, title: rule.title, ...told }]
    })
  })
}

/** Two points under one name: people and tables would take one for the other. */
function namedTwice({ points }: Handshake): readonly PointFinding[] {
  const seen = new Map<string, Point>()
  return points.flatMap((point) => {
    const other = seen.get(point.tag)
    seen.set(point.tag, point)
    return other
      ? [
          {
            rule: 'point.tag-twice',
            pointId: point.id,
            withId: other.id,
            severity: 'will-not-work' as const,
            title: 'Tag twice',
            say: `${point.quantity} and ${other.quantity} both go to the tag ${point.tag}.`,
          },
        ]
      : []
  })
}
