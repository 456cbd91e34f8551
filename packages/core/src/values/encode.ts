import { ok, refusal, type Result } from '../units'
import { reorder } from './byteOrder'
import { bitsTaken, byteTypes, dataTypes, isByteType, wholeRanges } from './dataType'
import { registersOf } from './decode'
import type { RawValue, ValueFormat } from './value'

/**
 * Writes a value as registers. What does not fit the type is refused: nothing is clipped or rounded silently, except
 * that a float takes its nearest representable value.
 *
 * @param present the words that stand there now, as they travel: a bit or a byte is set into them, so that its word's
 * other bits stay as they are. Where they are not known, write a mask instead (`maskWriteOfBit`).
 */
export function encodeValue(
  raw: RawValue,
  format: ValueFormat,
  present?: readonly number[],
): Result<readonly number[]> {
  const misfit = () =>
    refusal(
      'value.kind',
      `${describe(raw)} cannot be written as ${dataTypes[format.type].name}.`,
      describe(raw),
      dataTypes[format.type].explain,
    )
  switch (format.type) {
    case 'bool':
      return raw.kind === 'bool' ? encodePart(Number(raw.value), format, present) : misfit()
    case 'bits16':
      return raw.kind === 'bits' && raw.value.length === 16
        ? ok(reorder([raw.value.reduce((word, on, bit) => (on ? word | (1 << bit) : word), 0)], format.order))
        : misfit()
    case 'float32':
    case 'float64': {
      if (raw.kind !== 'number') return misfit()
      const view = new DataView(new ArrayBuffer(2 * registersOf(format)))
      if (format.type === 'float32') view.setFloat32(0, raw.value)
      else view.setFloat64(0, raw.value)
      return ok(reorder(wordsOf(view), format.order))
    }
    case 'ascii':
      return raw.kind === 'text' ? encodeText(raw.value, format) : misfit()
    default:
      return encodeWhole(raw, format, misfit, present)
  }
}

function encodeWhole(
  raw: RawValue,
  format: ValueFormat,
  misfit: () => Result<never>,
  present: readonly number[] | undefined,
): Result<readonly number[]> {
  const range = wholeRanges[format.type]
  if (!range || (raw.kind !== 'number' && raw.kind !== 'whole')) return misfit()
  if (raw.kind === 'number' && !Number.isInteger(raw.value)) return misfit()
  const value = BigInt(raw.value)
  const [min, max] = range
  if (value < min || value > max) {
    return refusal(
      'value.range',
      `${value} does not fit ${dataTypes[format.type].name}.`,
      String(value),
      `${min} to ${max}`,
    )
  }
  if (isByteType(format.type)) return encodePart(Number(BigInt.asUintN(8, value)), format, present)
  const view = new DataView(new ArrayBuffer(2 * registersOf(format)))
  const bits = format.type.startsWith('bcd') ? BigInt(`0x${value}`) : BigInt.asUintN(64, value)
  for (let k = 0; k < registersOf(format); k += 1) {
    view.setUint16(2 * (registersOf(format) - 1 - k), Number((bits >> BigInt(16 * k)) & 0xffffn))
  }
  return ok(reorder(wordsOf(view), format.order))
}

/** Sets the bits that a value takes into the word that stands there, and leaves the others. */
function encodePart(
  bits: number,
  format: ValueFormat,
  present: readonly number[] | undefined,
): Result<readonly number[]> {
  const [word] = present ? reorder(present, format.order) : []
  const isBit = format.type === 'bool'
  if (present?.length !== 1 || word === undefined) {
    return refusal(
      'value.present',
      `One ${isBit ? 'bit' : 'byte'} cannot be written without the word that it stands in: the other ${isBit ? 15 : 8}${isBit ? '' : ' bits'} would be cleared.`,
      present ? `${present.length} words` : 'no word',
      'the present word, or a mask write (function 22)',
    )
  }
  const mask = bitsTaken(format.type, format.bit)
  const from = isByteType(format.type) ? byteTypes[format.type].shift : (format.bit ?? 0)
  return ok(reorder([(word & ~mask) | (bits << from)], format.order))
}

function encodeText(text: string, format: ValueFormat): Result<readonly number[]> {
  const bytes = 2 * registersOf(format)
  if (text.length > bytes || /[^ -~]/.test(text)) {
    return refusal(
      'value.text',
      `"${text}" does not fit ${bytes} plain characters.`,
      text,
      `at most ${bytes} characters 20 to 7E`,
    )
  }
  const padded = text.padEnd(bytes, '\0')
  const words = Array.from(
    { length: registersOf(format) },
    (_, k) => (padded.charCodeAt(2 * k) << 8) | padded.charCodeAt(2 * k + 1),
  )
  return ok(reorder(words, format.order === 'BADC' || format.order.startsWith('DCBA') ? 'BADC' : 'ABCD'))
}

const wordsOf = (view: DataView): readonly number[] =>
  Array.from({ length: view.byteLength / 2 }, (_, k) => view.getUint16(2 * k))

const describe = (raw: RawValue): string => (raw.kind === 'bits' ? 'a set of bits' : String(raw.value))
