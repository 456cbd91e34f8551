import { isSerial, serialLineOf, type Handshake, type Job, type Point } from '../job'
import { limits, type Table } from '../modbus'
import { forbiddenOf, packReads, type Packing, type PackingRules, type Wanted } from '../packing'
import { characterMs, frameGapMs, readLineSettings } from '../serial'
import { readLargest } from './largest'
import { placesOf, type PointPlace } from './place'

/** How often a point is wanted of which nobody said it. */
export const USUAL_POLL_MS = 1000

/** The reads of one device, packed, and what could not be packed. */
export interface DevicePacking {
  readonly packing: Packing
  readonly rules: PackingRules
  /** What a unit of the cost is. */
  readonly unit: 'ms' | 'requests'
  /** Points that have no place yet, with the reason. */
  readonly unplaced: readonly { readonly point: Point; readonly why: string }[]
  readonly points: readonly Point[]
}

/** Bytes around the registers of a read: request 8, and in the answer unit, function, count and check. */
const RTU_AROUND = 8 + 5
const HALVES = 2

/** What a read costs on the line of a handshake: milliseconds on a serial line, else the request itself. */
function costOn(job: Job, handshake: Handshake): Pick<DevicePacking, 'unit'> & Pick<PackingRules, 'cost'> {
  const line = serialLineOf(job, handshake)
  const settings = line && isSerial(line) ? readLineSettings(line.settings) : undefined
  // Over a network every request costs a turn, and its length next to nothing.
  if (!settings?.ok) return { unit: 'requests', cost: { perRequest: 1, perRegister: 0.001 } }
  const byte = characterMs(settings.value)
  return {
    unit: 'ms',
    cost: { perRequest: RTU_AROUND * byte + HALVES * frameGapMs(settings.value), perRegister: 2 * byte },
  }
}

/** The table that bare numbers of a device belong to: the one that most of its points lie in. */
export function tableOfMost(wanted: readonly Pick<Wanted, 'table'>[]): Table {
  const counts = new Map<Table, number>()
  for (const { table } of wanted) counts.set(table, (counts.get(table) ?? 0) + 1)
  return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0] ?? 'holding-registers'
}

/** Packs what one handshake reads of its device. */
export function packingOf(job: Job, handshake: Handshake): DevicePacking {
  const found = placesOf(job, handshake)
  const places = handshake.points.flatMap((point, k) => {
    const place = found[k]
    return place ? [{ point, place }] : []
  })
  const tablesOfAll = places.flatMap(({ place }) => ('missing' in place ? [] : [place]))
  const alone = forbiddenOf(handshake.alone, tableOfMost(tablesOfAll))
  const isAlone = ({ table, address, size }: PointPlace) =>
    alone.some((each) => each.table === table && each.first < address + size && each.last >= address)
  const wanted = places.flatMap(({ point, place }): readonly Wanted[] =>
    'missing' in place
      ? []
      : [
          {
            id: point.id,
            table: place.table,
            address: place.address,
            size: place.size,
            pollMs: point.pollMs ?? USUAL_POLL_MS,
            isWriteOnly: point.access === 'write',
            isAlone: isAlone(place),
          },
        ],
  )
  const { unit, cost } = costOn(job, handshake)
  const largest = readLargest(job, handshake)
  const rules: PackingRules = {
    mostRegisters: Math.min(largest ?? limits.readRegisters, limits.readRegisters),
    mostBits: limits.readBits,
    forbidden: forbiddenOf(handshake.unreadable, tableOfMost(wanted)),
    cost,
  }
  return {
    packing: packReads(wanted, rules),
    rules,
    unit,
    unplaced: places.flatMap(({ point, place }) => ('missing' in place ? [{ point, why: place.missing }] : [])),
    points: handshake.points,
  }
}
