import { ok, refusal, type Result } from '../units'
import { reorder } from './byteOrder'
import { dataTypes } from './dataType'
import type { RawValue, ValueFormat } from './value'

/** Registers that a format takes. */
export function registersOf(format: ValueFormat): number {
  return dataTypes[format.type].registers ?? format.registers ?? 1
}

/**
 * Reads registers as a value. A wrong number of registers, a BCD nibble above 9, or a byte that is no printable
 * character is refused, never guessed. NaN and infinities are values.
 *
 * @source IEEE 754-2019 3.4 (binary32, binary64); BCD and word order are common practice, no source
 * @example decodeValue([0x42f6, 0xe979], { type: 'float32', order: 'ABCD' }) // 123.456
 */
export function decodeValue(words: readonly number[], format: ValueFormat): Result<RawValue> {
  const expected = registersOf(format)
  const { name } = dataTypes[format.type]
  if (words.length !== expected) {
    return refusal(
      'value.count',
      `${name} takes ${expected} register${expected === 1 ? '' : 's'}; ${words.length} arrived.`,
      `${words.length} registers`,
      `${expected} registers`,
    )
  }
  const high = reorder(words, format.order)
  switch (format.type) {
    case 'bool':
      return ok({ kind: 'bool', value: (((high[0] ?? 0) >>> (format.bit ?? 0)) & 1) === 1 })
    case 'bits16':
      return ok({ kind: 'bits', value: Array.from({ length: 16 }, (_, bit) => (((high[0] ?? 0) >>> bit) & 1) === 1) })
    case 'bcd16':
    case 'bcd32':
      return decodeBcd(high)
    case 'ascii':
      return decodeText(words, format)
    default:
      return ok(decodeNumber(viewOf(high), format.type))
  }
}

/** One view for all: what is written into it is read out before anything else can be. */
const scratch = new DataView(new ArrayBuffer(8))

function viewOf(words: readonly number[]): DataView {
  for (let k = 0; k < words.length; k += 1) scratch.setUint16(2 * k, words[k] ?? 0)
  return scratch
}

type NumberType = Exclude<ValueFormat['type'], 'bool' | 'bits16' | 'bcd16' | 'bcd32' | 'ascii'>

function decodeNumber(view: DataView, type: NumberType): RawValue {
  switch (type) {
    case 'uint8-high':
      return { kind: 'number', value: view.getUint8(0) }
    case 'uint8-low':
      return { kind: 'number', value: view.getUint8(1) }
    case 'int8-high':
      return { kind: 'number', value: view.getInt8(0) }
    case 'int8-low':
      return { kind: 'number', value: view.getInt8(1) }
    case 'uint16':
      return { kind: 'number', value: view.getUint16(0) }
    case 'int16':
      return { kind: 'number', value: view.getInt16(0) }
    case 'uint32':
      return { kind: 'number', value: view.getUint32(0) }
    case 'int32':
      return { kind: 'number', value: view.getInt32(0) }
    case 'uint64':
      return { kind: 'whole', value: view.getBigUint64(0) }
    case 'int64':
      return { kind: 'whole', value: view.getBigInt64(0) }
    case 'float32':
      return { kind: 'number', value: view.getFloat32(0) }
    case 'float64':
      return { kind: 'number', value: view.getFloat64(0) }
  }
}

function decodeBcd(words: readonly number[]): Result<RawValue> {
  const digits = words.map((word) => word.toString(16).padStart(4, '0')).join('')
  if (/[a-f]/.test(digits)) {
    return refusal(
      'value.bcd',
      `${digits.toUpperCase()} has a digit above 9, so it is not BCD.`,
      digits.toUpperCase(),
      'digits 0 to 9',
    )
  }
  return ok({ kind: 'number', value: Number(digits) })
}

/**
 * Text keeps the word order as it came; only the bytes inside a register may be swapped. It ends at the first NUL: what
 * stands after it is left over from a longer text that was there before. Trailing spaces go.
 */
function decodeText(words: readonly number[], format: ValueFormat): Result<RawValue> {
  const ordered = reorder(words, format.order === 'BADC' || format.order.startsWith('DCBA') ? 'BADC' : 'ABCD')
  const text = ordered.map((word) => String.fromCharCode(word >>> 8, word & 255)).join('')
  const [whole = ''] = text.split('\0')
  const trimmed = whole.replace(/ +$/, '')
  const odd = [...trimmed].find((character) => character < ' ' || character > '~')
  if (odd !== undefined) {
    const code = odd.charCodeAt(0).toString(16).toUpperCase().padStart(2, '0')
    return refusal(
      'value.text',
      `Byte ${code} is not a printable character, so this is not plain text.`,
      code,
      '20 to 7E',
    )
  }
  return ok({ kind: 'text', value: trimmed })
}
