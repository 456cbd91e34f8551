import { formatIpv4, ipv4FromBits } from '../address'
import { parseReference } from '../modbus'
import { ok, refusal, type Result } from '../units'
import { formatNumber, parseDecimal, type DataType } from '../values'
import type { OwnPlace } from './readPlan'

/** One register of a device that shows what a setting stands at, and what its numbers mean. */
export interface MirrorPart {
  readonly place: OwnPlace
  /** The number is an IPv4 address. */
  readonly isAddress: boolean
  /** What the numbers mean; empty where the number is the setting itself. */
  readonly meanings: ReadonlyMap<number, string>
}

/** Where a device mirrors a setting: one register, or several whose meanings stand one after the other. */
export type Mirror = readonly MirrorPart[]

const EXAMPLE =
  'for example 40021, 40021 uint32 x0.1, 40021 ipv4, or 40021: 1 = 9600, 2 = 19200; 40022: 0 = 8N1, 1 = 8E1'
const NUMBERS: readonly DataType[] = ['uint16', 'int16', 'uint32', 'int32', 'float32']

/**
 * Reads where a setting is mirrored. Parts are separated by semicolons; a part is a register, then its type (uint16
 * where none stands), a factor, `low word first`, and after a colon what its numbers mean.
 * @example `40021: 3 = 9600, 4 = 19200; 40022: 0 = 8N1, 2 = 8E1`
 */
export function readMirror(text: string): Result<Mirror> {
  const parts = text.split(';').map((part) => readPart(part.trim()))
  for (const part of parts) if (!part.ok) return part
  return ok(parts.flatMap((part) => (part.ok ? [part.value] : [])))
}

function readPart(text: string): Result<MirrorPart> {
  if (text === '') return refusal('mirror.blank', 'No register is said.', 'nothing', EXAMPLE)
  const colon = text.indexOf(':')
  const [register = '', ...words] = (colon < 0 ? text : text.slice(0, colon)).trim().split(/\s+/)
  const reference = parseReference(register)
  if (!reference.ok) return reference
  let type: DataType = 'uint16'
  let [scale, isAddress, isLowFirst] = [1, false, false]
  const rest = words.join(' ').replace(/\blow word first\b/i, () => ((isLowFirst = true), ''))
  for (const word of rest.split(/\s+/).filter((each) => each !== '')) {
    const factor = /^[x×*](.+)$/i.exec(word)?.[1]
    const read = factor === undefined ? undefined : parseDecimal(factor)
    if (read?.ok && read.value !== 0) scale = read.value
    else if (NUMBERS.includes(word.toLowerCase() as DataType)) type = word.toLowerCase() as DataType
    else if (word.toLowerCase() === 'ipv4') [type, isAddress] = ['uint32', true]
    else
      return refusal(
        'mirror.word',
        `"${word}" says neither a type nor a factor.`,
        word,
        `${NUMBERS.join(', ')}, ipv4, a factor as x0.1, or low word first`,
      )
  }
  const meanings = readMeanings(colon < 0 ? '' : text.slice(colon + 1))
  if (!meanings.ok) return meanings
  if (meanings.value.size > 0 && (isAddress || scale !== 1))
    return refusal('mirror.both', 'A register has a factor or meanings, not both.', text, EXAMPLE)
  const order = isLowFirst ? 'CDAB' : 'ABCD'
  return ok({ place: { register, type, order, scale }, isAddress, meanings: meanings.value })
}

function readMeanings(text: string): Result<ReadonlyMap<number, string>> {
  const meanings = new Map<number, string>()
  for (const pair of text.split(',').filter((each) => each.trim() !== '')) {
    const [, raw, means] = /^\s*(-?\d+)\s*=\s*(.+?)\s*$/.exec(pair) ?? []
    if (raw === undefined || means === undefined)
      return refusal('mirror.meaning', `"${pair.trim()}" does not say what a number means.`, pair.trim(), '1 = 9600')
    if (meanings.has(Number(raw)))
      return refusal('mirror.twice', `${raw} has two meanings.`, pair.trim(), 'each number once')
    meanings.set(Number(raw), means)
  }
  return ok(meanings)
}

/**
 * What a setting stands at, from the numbers of its registers.
 * @param values as they are read, in the order of the parts, scaled
 */
export function mirrored(mirror: Mirror, values: readonly number[]): Result<string> {
  const words: string[] = []
  for (const [k, { place, isAddress, meanings }] of mirror.entries()) {
    const value = values[k]
    if (value === undefined) return refusal('mirror.value', `${place.register} was not read.`, 'nothing', 'a value')
    if (meanings.size === 0) {
      words.push(isAddress ? formatIpv4(ipv4FromBits(value)) : formatNumber(value))
      continue
    }
    const means = meanings.get(value)
    if (means === undefined)
      return refusal(
        'mirror.unknown',
        `${place.register} shows ${value}, and nothing says what that means.`,
        String(value),
        [...meanings.keys()].join(', '),
      )
    words.push(means)
  }
  return ok(words.join(' '))
}
