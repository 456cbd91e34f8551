import { readScaling } from './scaling'
import { accessWords, accesses, type Access, type Point } from '../job'
import { ok, parseWholeNumber, refusal, type Result } from '../units'
import { byteOrders, dataTypes, parseDecimal, type ByteOrder, type DataType } from '../values'

export type PointColumnId =
  | 'quantity'
  | 'tag'
  | 'register'
  | 'type'
  | 'order'
  | 'scale'
  | 'offset'
  | 'unit'
  | 'low'
  | 'high'
  | 'decimals'
  | 'pollMs'
  | 'ageMs'
  | 'access'
  | 'shownAt'
  | 'moves'
  | 'updates'

/** What a cell comes to: a field of the point, or a part of its place in the device. */
export interface PointEdit {
  readonly fields?: Partial<Point>
  readonly place?: { register?: string; type?: DataType; order?: ByteOrder; scale?: number; offset?: number }
}

/** One column of the table of points: how it is shown, and how what is typed is read. */
export interface PointColumn {
  readonly id: PointColumnId
  readonly name: string
  /** Heads under which documents have it, in small letters without spaces and marks. */
  readonly heads: readonly string[]
  readonly typed: boolean
  readonly show: (point: Point) => string
  readonly read: (text: string) => Result<PointEdit>
  readonly choices?: readonly string[]
}

const plain = (text: string) => text.toLowerCase().replace(/[^a-z0-9]/g, '')

/** Names under which documents have a type. @source common practice, no source */
const typeHeads: Readonly<Record<string, DataType>> = {
  float: 'float32',
  real: 'float32',
  f32: 'float32',
  single: 'float32',
  float32: 'float32',
  lreal: 'float64',
  double: 'float64',
  float64: 'float64',
  f64: 'float64',
  int: 'int16',
  s16: 'int16',
  short: 'int16',
  int16: 'int16',
  uint8high: 'uint8-high',
  uint8low: 'uint8-low',
  int8high: 'int8-high',
  int8low: 'int8-low',
  highbyte: 'uint8-high',
  lowbyte: 'uint8-low',
  byte: 'uint8-low',
  u8: 'uint8-low',
  uint8: 'uint8-low',
  usint: 'uint8-low',
  s8: 'int8-low',
  int8: 'int8-low',
  sint: 'int8-low',
  word: 'uint16',
  u16: 'uint16',
  uint: 'uint16',
  uint16: 'uint16',
  ushort: 'uint16',
  dint: 'int32',
  s32: 'int32',
  long: 'int32',
  int32: 'int32',
  dword: 'uint32',
  u32: 'uint32',
  udint: 'uint32',
  uint32: 'uint32',
  ulong: 'uint32',
  lint: 'int64',
  int64: 'int64',
  s64: 'int64',
  uint64: 'uint64',
  u64: 'uint64',
  ulint: 'uint64',
  bool: 'bool',
  bit: 'bool',
  boolean: 'bool',
  bcd: 'bcd16',
  bcd16: 'bcd16',
  bcd32: 'bcd32',
  string: 'ascii',
  ascii: 'ascii',
  bits: 'bits16',
  '16bits': 'bits16',
  bits16: 'bits16',
}

/** @example readType('FLOAT 32') // float32 */
export function readType(text: string): Result<DataType> {
  const type = typeHeads[plain(text)]
  if (type) return ok(type)
  return refusal(
    'type.name',
    `"${text}" is no type that is known.`,
    text,
    'for example int 16, uint 32, float 32, bool',
  )
}

const orderHeads: Readonly<Record<string, ByteOrder>> = {
  highwordfirst: 'ABCD',
  bigendian: 'ABCD',
  big: 'ABCD',
  lowwordfirst: 'CDAB',
  wordswap: 'CDAB',
  swapped: 'CDAB',
  byteswap: 'BADC',
  littleendian: 'DCBA',
  little: 'DCBA',
}

export function readOrder(text: string): Result<ByteOrder> {
  const known = Object.keys(byteOrders).find((order) => plain(order) === plain(text)) as ByteOrder | undefined
  const order = known ?? orderHeads[plain(text)]
  if (order) return ok(order)
  return refusal('order.name', `"${text}" is no order of bytes.`, text, Object.keys(byteOrders).join(', '))
}

const mapped = <T>(reading: Result<T>, edit: (value: T) => PointEdit): Result<PointEdit> =>
  reading.ok ? ok(edit(reading.value)) : reading

const textColumn = (
  id: 'quantity' | 'tag' | 'unit' | 'shownAt' | 'moves' | 'updates',
  name: string,
  heads: readonly string[],
  least: number,
): PointColumn => ({
  id,
  name,
  heads,
  typed: id === 'tag',
  show: (point) => point[id],
  read: (text) =>
    text.trim().length >= least
      ? ok({ fields: { [id]: text.trim() } })
      : refusal('point.blank', `${name} is blank.`, 'nothing', 'a name'),
})

/** A number that may stand open. */
const openNumber = (id: 'low' | 'high', name: string, heads: readonly string[]): PointColumn => ({
  id,
  name,
  heads,
  typed: true,
  show: (point) => (point[id] === null ? '' : String(point[id])),
  read: (text) =>
    text.trim() === ''
      ? ok({ fields: { [id]: null } })
      : mapped(parseDecimal(text, name), (value) => ({ fields: { [id]: value } })),
})

const readTime = (text: string, least: number): Result<number | null> => {
  const typed = text.trim().toLowerCase()
  if (typed === '') return ok(null)
  const [, digits = '', unit = ''] = /^(\d+(?:\.\d+)?)\s*(ms|s|min)?$/.exec(typed) ?? []
  const value = Number(digits) * (unit === 's' ? 1000 : unit === 'min' ? 60_000 : 1)
  if (digits === '' || value < least || value > 3_600_000)
    return refusal(
      'poll.form',
      `"${text}" is no time that can be asked for.`,
      text,
      `milliseconds from ${least}, or 2 s`,
    )
  return ok(Math.round(value))
}

const readAccess = (text: string): Result<Access> => {
  const names: Readonly<Record<string, Access>> = { r: 'read', ro: 'read', w: 'write', wo: 'write', rw: 'read-write' }
  const typed = plain(text)
  const access = names[typed] ?? accesses.find((each) => plain(each) === typed || plain(accessWords[each]) === typed)
  return access
    ? ok(access)
    : refusal('access.name', `"${text}" says no direction.`, text, Object.values(accessWords).join(', '))
}

/** All columns, as the table has them. Directions are seen from the controller. */
export const pointColumns: readonly PointColumn[] = [
  textColumn(
    'quantity',
    'Quantity',
    ['name', 'description', 'parameter', 'variable', 'measurement', 'signal', 'value'],
    1,
  ),
  {
    id: 'register',
    name: 'Register',
    heads: ['address', 'reg', 'offset address', 'modbusaddress', 'registeraddress', 'startregister', 'first'],
    typed: true,
    show: (point) => point.source?.register ?? '',
    read: (text) => ok({ place: { register: text.trim() } }),
  },
  {
    id: 'type',
    name: 'Type',
    heads: ['datatype', 'format'],
    typed: false,
    show: (point) => (point.source ? dataTypes[point.source.type].name : ''),
    read: (text) => mapped(readType(text), (type) => ({ place: { type } })),
    choices: Object.values(dataTypes).map(({ name }) => name),
  },
  {
    id: 'order',
    name: 'Order',
    heads: ['wordorder', 'byteorder', 'endian', 'endianness'],
    typed: true,
    show: (point) => point.source?.order ?? '',
    read: (text) => mapped(readOrder(text), (order) => ({ place: { order } })),
    choices: Object.keys(byteOrders),
  },
  {
    id: 'scale',
    name: 'Scale',
    heads: ['factor', 'multiplier', 'gain', 'resolution'],
    typed: true,
    show: (point) => (point.source ? String(point.source.scale) : ''),
    read: (text) => mapped(readScaling(text), (place) => ({ place: { ...place } })),
  },
  {
    id: 'offset',
    name: 'Offset',
    heads: ['zero', 'bias'],
    typed: true,
    show: (point) => (point.source?.offset === undefined ? '' : String(point.source.offset)),
    read: (text) =>
      mapped(parseDecimal(text.trim() === '' ? '0' : text, 'The offset'), (offset) => ({ place: { offset } })),
  },
  textColumn('unit', 'Unit', ['units', 'uom', 'eu'], 0),
  openNumber('low', 'Lowest', ['min', 'minimum', 'rangelow', 'from']),
  openNumber('high', 'Highest', ['max', 'maximum', 'rangehigh', 'to']),
  {
    id: 'decimals',
    name: 'Decimals',
    heads: ['digits', 'places'],
    typed: true,
    show: (point) => String(point.decimals),
    read: (text) =>
      mapped(parseWholeNumber(text.trim(), { name: 'Decimals', min: 0, max: 9 }), (decimals) => ({
        fields: { decimals },
      })),
  },
  {
    id: 'pollMs',
    name: 'Every',
    heads: ['poll', 'pollrate', 'rate', 'interval', 'scan'],
    typed: true,
    show: (point) => (point.pollMs === null ? '' : `${point.pollMs} ms`),
    read: (text) => mapped(readTime(text, 10), (pollMs) => ({ fields: { pollMs } })),
  },
  {
    id: 'ageMs',
    name: 'At most old',
    heads: ['age', 'maxage', 'latency'],
    typed: true,
    show: (point) => (point.ageMs === null ? '' : `${point.ageMs} ms`),
    read: (text) => mapped(readTime(text, 1), (ageMs) => ({ fields: { ageMs } })),
  },
  {
    id: 'access',
    name: 'Direction',
    heads: ['access', 'rw', 'readwrite', 'mode'],
    typed: false,
    show: (point) => accessWords[point.access],
    read: (text) => mapped(readAccess(text), (access) => ({ fields: { access } })),
    choices: Object.values(accessWords),
  },
  textColumn('tag', 'Tag', ['plctag', 'tagname', 'symbol'], 1),
  textColumn('shownAt', 'Shown at', ['screen', 'display', 'hmi'], 0),
  textColumn('moves', 'May move', ['maymove', 'whatitmaymove', 'effect', 'consequence'], 0),
  textColumn('updates', 'New when', ['newwhen', 'update', 'updaterule', 'updates', 'refresh'], 0),
]

export const pointColumn = (id: PointColumnId): PointColumn => {
  const column = pointColumns.find((each) => each.id === id)
  if (!column) throw new Error(`No column ${id}.`)
  return column
}
