import { ok, refusal, type Result } from '../units'
import type { ByteOrder, DataType } from '../values'
import type { FieldLayout } from './layout'

const types: ReadonlySet<string> = new Set<DataType>([
  'uint16',
  'int16',
  'uint32',
  'int32',
  'float32',
  'uint64',
  'int64',
  'float64',
  'bcd16',
  'bcd32',
])
const orders: ReadonlySet<string> = new Set<ByteOrder>(['ABCD', 'CDAB', 'BADC', 'DCBA'])
const EXPECTED = 'a name, a colon and a type, for example "Flow: float32 ABCD", "State: uint8" or "Name: text 8"'

/**
 * The fields of an answer, one line each: a name, a colon, a type, and an order where it is not ABCD. A text says how
 * many bytes it takes, an even number.
 *
 * @example readLayout('Flow: float32 CDAB')
 */
export function readLayout(text: string): Result<readonly FieldLayout[]> {
  const fields: FieldLayout[] = []
  for (const [at, raw] of text.split(/\r?\n/).entries()) {
    const line = raw.trim()
    if (line === '') continue
    const [, name = '', type = '', more = ''] = /^(.+?)\s*:\s*(\S+)(?:\s+(\S+))?$/.exec(line) ?? []
    const field = fieldOf(name, type.toLowerCase(), more)
    if (!field) return refusal('layout.line', `Line ${at + 1}: "${line}" is no field.`, line, EXPECTED)
    fields.push(field)
  }
  return fields.length > 0 ? ok(fields) : refusal('layout.blank', 'No field is written down yet.', 'nothing', EXPECTED)
}

function fieldOf(name: string, type: string, more: string): FieldLayout | undefined {
  if (name === '') return undefined
  if (type === 'uint8' || type === 'int8') return more === '' ? { name, format: type } : undefined
  if (type === 'text') {
    const bytes = Number(more)
    return bytes > 0 && bytes % 2 === 0 && bytes <= 250
      ? { name, format: { type: 'ascii', order: 'ABCD', registers: bytes / 2 } }
      : undefined
  }
  const order = more === '' ? 'ABCD' : more.toUpperCase()
  if (!types.has(type) || !orders.has(order)) return undefined
  return { name, format: { type: type as DataType, order: order as ByteOrder } }
}
