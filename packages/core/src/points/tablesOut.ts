import { accessWords, type Point } from '../job'
import { formatReference, tables, type Table } from '../modbus'
import type { PackedRequest } from '../packing'
import { byteOrders, dataTypes, type DataType } from '../values'
import { placesOf } from './place'
import type { Handshake, Job } from '../job'

/** @source IEC 61131-3, table 10 (elementary data types); 16 bits as WORD, BCD as WORD and DWORD */
const iecTypes: Readonly<Record<DataType, string>> = {
  bool: 'BOOL',
  bits16: 'WORD',
  'uint8-high': 'USINT',
  'uint8-low': 'USINT',
  'int8-high': 'SINT',
  'int8-low': 'SINT',
  uint16: 'UINT',
  int16: 'INT',
  uint32: 'UDINT',
  int32: 'DINT',
  uint64: 'ULINT',
  int64: 'LINT',
  float32: 'REAL',
  float64: 'LREAL',
  bcd16: 'WORD',
  bcd32: 'DWORD',
  ascii: 'STRING',
}

const word = (text: string): string => {
  const plain = text
    .replace(/[^A-Za-z0-9_]+/g, '_')
    .replace(/_+/g, '_')
    .replace(/^_|_$/g, '')
  return /^[A-Za-z]/.test(plain) ? plain : `V_${plain}`
}

/**
 * The tags of points as declarations. Names that the language does not allow are written with underscores; two that
 * become one get a number.
 * @source IEC 61131-3, 6.1.2 (identifiers) and 6.5.2 (declarations)
 */
export function declarations(points: readonly Point[], typeOf: (point: Point) => DataType | undefined): string {
  const used = new Map<string, number>()
  const lines = points.map((point) => {
    const name = word(point.tag)
    const count = (used.get(name.toLowerCase()) ?? 0) + 1
    used.set(name.toLowerCase(), count)
    const type = typeOf(point)
    const own = count === 1 ? name : `${name}_${count}`
    const comment = `${point.quantity}${point.unit ? `, ${point.unit}` : ''}`.replaceAll('*)', '* )')
    return `  ${own} : ${type ? iecTypes[type] : 'WORD'}; (* ${comment} *)`
  })
  return ['VAR_GLOBAL', ...lines, 'END_VAR', ''].join('\n')
}

/** A number of the first register in the notation with a table digit, as most programming tools take it. */
function numberOf(address: number, table: Table): string {
  const five = formatReference(address as never, 'five-digit', table)
  const written = five.ok ? five : formatReference(address as never, 'six-digit', table)
  return written.ok ? written.value : String(address)
}

/** The command table of the end that asks: one row for each request, with every way of counting.
 * @param toolAdds what the programming tool adds to an address in the frame */
export function commandRows(
  requests: readonly PackedRequest[],
  unit: string,
  toolAdds: 0 | 1 = 0,
): readonly (readonly (string | number)[])[] {
  return [
    ['Command', 'Unit', 'Function', 'Address from 0', 'In the tool', 'Register', 'Count', 'Every ms', 'Values'],
    ...requests.map(({ table, first, count, pollMs, carries }, k) => [
      k + 1,
      unit,
      tables[table].readBy,
      first,
      first + toolAdds,
      numberOf(first, table),
      count,
      pollMs,
      carries.length,
    ]),
  ]
}

/** The map of registers as a page: every point with where it lies and how it is read. It can be taken in again. */
export function mapRows(job: Job, handshake: Handshake): readonly (readonly (string | number)[])[] {
  const places = placesOf(job, handshake)
  return [
    [
      'Quantity',
      'Register',
      'Type',
      'Order',
      'Scale',
      'Offset',
      'Unit',
      'Lowest',
      'Highest',
      'Decimals',
      'Every',
      'Direction',
      'Tag',
      'Shown at',
      'May move',
      'New when',
    ],
    ...handshake.points.flatMap((point, k) => {
      const place = places[k]
      if (!place || 'missing' in place) return []
      const { format, scale, offset } = place.plan
      const bit = format.bit === undefined ? '' : `.${format.bit}`
      return [
        [
          point.quantity,
          `${numberOf(place.address, place.table)}${bit}`,
          dataTypes[format.type].name,
          format.order in byteOrders ? format.order : '',
          scale,
          offset === 0 ? '' : offset,
          point.unit,
          point.low ?? '',
          point.high ?? '',
          point.decimals,
          point.pollMs ?? '',
          accessWords[point.access],
          point.tag,
          point.shownAt,
          point.moves,
          point.updates,
        ],
      ]
    }),
  ]
}

/** A short mark of a table: two tables with the same mark say the same. Not for secrets, only to tell a table is stale. */
export function markOf(rows: readonly (readonly (string | number)[])[]): string {
  let mark = 0x811c_9dc5
  for (const character of JSON.stringify(rows))
    mark = Math.imul(mark ^ (character.codePointAt(0) ?? 0), 0x0100_0193) >>> 0
  return mark.toString(16).padStart(8, '0').toUpperCase()
}
