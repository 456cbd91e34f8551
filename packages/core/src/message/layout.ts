import { ok, refusal, type Result } from '../units'
import { decodeValue, formatRaw, registersOf, type RawValue, type ValueFormat } from '../values'
import { checksums, type ChecksumId } from './checksums'
import { hexText } from './bytes'

/** An answer: a header, so many fields one after the other, a trailer with or without a check in it. */
export interface AnswerLayout {
  readonly headerBytes: number
  readonly fields: readonly FieldLayout[]
  /** Bytes behind the fields: the check, and an end mark. */
  readonly checksum: ChecksumId
  readonly endBytes: number
}

/** One field. Fields of whole registers are read as `values` reads them; a single byte is a number of its own. */
export interface FieldLayout {
  readonly name: string
  readonly format: ValueFormat | 'uint8' | 'int8'
}

const bytesOf = ({ format }: FieldLayout): number => (typeof format === 'string' ? 1 : 2 * registersOf(format))

/** One way in which a length holds whole fields. */
export interface FitsOfLength {
  readonly bytes: number
  readonly fields: number
  /** The last byte of the words is filling, and does not belong to the answer. */
  readonly isPadded: boolean
}

/**
 * How many fields of one size a length holds: header + n × field + trailer must equal it. A length said in words may
 * hide one byte of filling, so both are tried and every n that fits is listed.
 *
 * @example fitsOf(42, 'bytes', 4, 4, 2) // nine fields
 */
export function fitsOf(
  length: number,
  unit: 'bytes' | 'words',
  headerBytes: number,
  fieldBytes: number,
  trailerBytes: number,
): readonly FitsOfLength[] {
  const lengths = unit === 'bytes' ? [length] : [2 * length, 2 * length - 1]
  return lengths.flatMap((bytes, k) => {
    const fields = (bytes - headerBytes - trailerBytes) / fieldBytes
    return Number.isInteger(fields) && fields >= 1 ? [{ bytes, fields, isPadded: k === 1 }] : []
  })
}

export interface SplitField {
  readonly name: string
  readonly bytes: readonly number[]
  readonly value: RawValue
  readonly text: string
}

export interface SplitAnswer {
  readonly header: readonly number[]
  readonly fields: readonly SplitField[]
  readonly check: readonly number[]
  readonly end: readonly number[]
}

/** Splits an answer by its layout. A length or a check that does not fit is refused with both numbers: nothing is guessed. */
export function splitAnswer(bytes: readonly number[], layout: AnswerLayout): Result<SplitAnswer> {
  const check = checksums[layout.checksum]
  const checkBytes = check.of([0]).length
  const body = layout.headerBytes + layout.fields.reduce((sum, field) => sum + bytesOf(field), 0)
  const whole = body + checkBytes + layout.endBytes
  if (bytes.length !== whole)
    return refusal(
      'answer.length',
      `The layout takes ${whole} bytes (${layout.headerBytes} of header, ${body - layout.headerBytes} of fields, ${checkBytes} of check, ${layout.endBytes} at the end); ${bytes.length} are here.`,
      `${bytes.length} bytes`,
      `${whole} bytes`,
    )
  const sent = bytes.slice(body, body + checkBytes)
  const should = check.of(bytes.slice(0, body))
  if (sent.some((byte, k) => byte !== should[k]))
    return refusal(
      'answer.check',
      `The check is ${hexText(sent)}; over ${body} bytes it should be ${hexText(should)}.`,
      hexText(sent),
      hexText(should),
    )
  const fields: SplitField[] = []
  let at = layout.headerBytes
  for (const field of layout.fields) {
    const own = bytes.slice(at, at + bytesOf(field))
    at += own.length
    const value = valueOf(own, field)
    if (!value.ok)
      return refusal('answer.field', `${field.name}: ${value.refusal.what}`, hexText(own), value.refusal.expected)
    fields.push({ name: field.name, bytes: own, value: value.value, text: formatRaw(value.value) })
  }
  return ok({ header: bytes.slice(0, layout.headerBytes), fields, check: sent, end: bytes.slice(body + checkBytes) })
}

function valueOf(bytes: readonly number[], { format }: FieldLayout): Result<RawValue> {
  if (typeof format !== 'string') {
    const words = Array.from(
      { length: bytes.length / 2 },
      (_, k) => ((bytes[2 * k] ?? 0) << 8) | (bytes[2 * k + 1] ?? 0),
    )
    return decodeValue(words, format)
  }
  const [byte = 0] = bytes
  return ok({ kind: 'number', value: format === 'int8' && byte > 127 ? byte - 256 : byte })
}
