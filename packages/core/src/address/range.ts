import { ok, refusal, type Result } from '../units'
import { formatIpv4, ipv4FromBits, parseIpv4, type Ipv4 } from './ipv4'

/** Addresses from `first` to `last`, both included. `first` is never above `last`. */
export interface AddressRange {
  readonly first: Ipv4
  readonly last: Ipv4
}

export function inRange(range: AddressRange, address: Ipv4): boolean {
  return address >= range.first && address <= range.last
}

export function rangesOverlap(a: AddressRange, b: AddressRange): boolean {
  return a.first <= b.last && b.first <= a.last
}

export function rangeSize(range: AddressRange): number {
  return range.last - range.first + 1
}

/** @example '10.20.40.150-10.20.40.199', or one address alone */
export function formatRange(range: AddressRange): string {
  return range.first === range.last ? formatIpv4(range.first) : `${formatIpv4(range.first)}-${formatIpv4(range.last)}`
}

const EXPECTED = 'a range such as 10.20.40.150-10.20.40.199, or 10.20.40.150-199'

/** Reads `first-last`; the second half may be the last octet alone. A single address is a range of one. */
export function parseRange(text: string): Result<AddressRange> {
  const typed = text.trim()
  if (typed === '') return refusal('range.blank', 'The range is blank.', 'nothing', EXPECTED)
  const [left = '', right, ...more] = typed.split(/\s*(?:-|–|\.\.\.|\bto\b)\s*/)
  if (more.length > 0) return refusal('range.form', `"${typed}" has more than two ends.`, typed, EXPECTED)
  const first = parseIpv4(left)
  if (!first.ok) return refusal('range.first', first.refusal.what, typed, EXPECTED)
  if (right === undefined) return ok({ first: first.value, last: first.value })
  const last = /^\.?\d{1,3}$/.test(right)
    ? parseIpv4(formatIpv4(first.value).replace(/\d+$/, right.replace('.', '')))
    : parseIpv4(right)
  if (!last.ok) return refusal('range.last', last.refusal.what, typed, EXPECTED)
  if (last.value < first.value) {
    const value = formatRange({ first: last.value, last: first.value })
    return refusal('range.backwards', `${typed} ends before it begins.`, typed, EXPECTED, [
      { label: `Use ${value}`, value },
    ])
  }
  return ok({ first: first.value, last: last.value })
}

/** Reads ranges with commas, semicolons or line ends between them; blank means none. */
export function parseRanges(text: string): Result<readonly AddressRange[]> {
  const ranges: AddressRange[] = []
  for (const part of text.split(/[,;\n]/).filter((piece) => piece.trim() !== '')) {
    const range = parseRange(part)
    if (!range.ok) return range
    ranges.push(range.value)
  }
  return ok(ranges)
}

export function formatRanges(ranges: readonly AddressRange[]): string {
  return ranges.map(formatRange).join(', ')
}

/** Neighbouring or overlapping ranges joined, sorted by their first address. */
export function joinRanges(ranges: readonly AddressRange[]): readonly AddressRange[] {
  const joined: AddressRange[] = []
  for (const range of [...ranges].sort((a, b) => a.first - b.first)) {
    const before = joined.at(-1)
    if (before && range.first <= before.last + 1) {
      joined[joined.length - 1] = { first: before.first, last: ipv4FromBits(Math.max(before.last, range.last)) }
    } else joined.push(range)
  }
  return joined
}
