import { on } from './applying'
import { quantityTerm } from './makeTerm'
import { quantityText } from './readers'
import { aloneApart, equal, fits } from './relations'
import type { TermContext, TermDefinition } from './term'

const line = 'line' as const
const PRACTICE = 'common practice, no source'

/** Longest segment by bit rate, in metres, for buses whose limits are known, by family of nodes. */
const busLengths: Readonly<Record<string, readonly (readonly [rate: number, metres: number])[]>> = {
  // IEC 61158 type 3, copper: 9.6 to 93.75 kbit/s 1 200 m, 187.5 k 1 000 m, 500 k 400 m, 1.5 M 200 m, 3 to 12 M 100 m.
  'decimal-0-125': [
    [9600, 1200],
    [19_200, 1200],
    [45_450, 1200],
    [93_750, 1200],
    [187_500, 1000],
    [500_000, 400],
    [1_500_000, 200],
    [3_000_000, 100],
    [6_000_000, 100],
    [12_000_000, 100],
  ],
  // CiA 301, from memory.
  'decimal-1-127': [
    [10_000, 5000],
    [20_000, 2500],
    [50_000, 1000],
    [125_000, 500],
    [250_000, 250],
    [500_000, 100],
    [800_000, 50],
    [1_000_000, 25],
  ],
  // IEC 62026-3, thick cable, from memory.
  'decimal-0-63': [
    [125_000, 500],
    [250_000, 250],
    [500_000, 100],
  ],
}

const RATE = {
  name: 'Bit rate',
  unit: 'bit/s',
  units: { 'kbit/s': 1000, k: 1000, kbaud: 1000, 'mbit/s': 1e6, m: 1e6, baud: 1 },
  least: 1000,
  most: 100_000_000,
}
/** @example rateText(1_500_000) // '1.5 Mbit/s' */
export const rateText = (rate: number) =>
  rate >= 1e6 ? quantityText(rate / 1e6, 'Mbit/s') : quantityText(rate / 1000, 'kbit/s')

const ratesOf = ({ line: bus }: TermContext) => busLengths[bus?.family ?? '']

export const busRateTerm: TermDefinition<number> = {
  ...quantityTerm({
    id: 'bus-rate',
    name: 'Bit rate of the bus',
    group: line,
    explain: 'One bit rate for everybody on the bus; some find it by listening, some are set by a switch.',
    why: 'A node at another rate hears nothing, and may disturb the others.',
    applies: on('bus'),
    asked: on('bus'),
    field: RATE,
    example: '500 kbit/s',
    alone: (rate, end, context) => {
      const described = context.limits?.rates ?? []
      if (end === 'device' && described.length > 0 && !described.includes(rate))
        return aloneApart(
          end,
          `${rateText(rate)} is no rate of ${context.tags.device}. Its description file says ${described.map(rateText).join(', ')}.`,
          context,
        )
      const rates = ratesOf(context)
      return rates === undefined || rates.some(([each]) => each === rate)
        ? undefined
        : aloneApart(
            end,
            `${rateText(rate)} is no rate of this bus: ${rates.map(([each]) => rateText(each)).join(', ')}.`,
            context,
          )
    },
    source: 'IEC 61158 type 3; CiA 301 and IEC 62026-3 from memory',
  }),
  format: rateText,
}

/** The longest segment that the bit rate of a bus allows, in metres; `undefined` where nobody knows. */
export function longestBus(context: TermContext): number | undefined {
  const entry = context.terms['bus-rate']?.controller ?? context.terms['bus-rate']?.device
  const rate = entry && busRateTerm.parse(entry)
  return rate?.ok ? ratesOf(context)?.find(([each]) => each === rate.value)?.[1] : undefined
}

export const segmentStationsTerm = quantityTerm({
  id: 'segment-stations',
  name: 'Stations in the segment',
  group: line,
  explain: 'How many drivers sit between two repeaters, the master and the repeaters themselves included.',
  relation: 'at most 32',
  why: 'More load than a driver can carry.',
  severity: 'wrong',
  applies: on('bus'),
  field: { name: 'Stations', unit: '', least: 1, most: 256, whole: true },
  derive: (end, { line: bus }) =>
    end === 'controller'
      ? { text: '32', origin: 'specification' }
      : bus && { text: String(Math.max(1, bus.stations)), origin: 'line-up' },
  agree: (allowed, are, context) =>
    are <= allowed
      ? fits(`${are} of ${allowed}`)
      : {
          state: 'at-odds',
          why: `${are} stations on ${context.line?.name ?? 'the bus'}; a segment takes ${allowed}. Put a repeater between them.`,
          fixes: [],
        },
  source: 'TIA-485-A; IEC 61158 type 3: 32 stations a segment',
})

export const repeatersTerm = quantityTerm({
  id: 'repeaters',
  name: 'Repeaters',
  group: line,
  explain: 'How many repeaters lie between the master and this node.',
  relation: 'no more than the bus takes',
  why: 'Each one delays and reshapes; after too many the master gives up waiting.',
  severity: 'wrong',
  applies: on('bus'),
  field: { name: 'Repeaters', unit: '', least: 0, most: 32, whole: true },
  derive: (end) => (end === 'controller' ? { text: '9', origin: 'common practice' } : undefined),
  agree: (allowed, are) =>
    are <= allowed
      ? equal
      : { state: 'at-odds', why: `${are} repeaters in a row; ${allowed} is the most that is usual.`, fixes: [] },
  source: PRACTICE,
})
