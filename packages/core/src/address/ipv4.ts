import { ok, refusal, type Brand, type Offer, type Result } from '../units'

/** An IPv4 address as an unsigned 32-bit number. Made only by `parseIpv4`, `ipv4` and this folder's arithmetic. */
export type Ipv4 = Brand<number, 'Ipv4'>

/** @source RFC 3986 3.2.2, `dec-octet` */
const OCTET = '(25[0-5]|2[0-4]\\d|1\\d\\d|[1-9]?\\d)'
const DOTTED = new RegExp(`^${Array(4).fill(OCTET).join('\\.')}$`)

const EXPECTED = 'four whole numbers from 0 to 255 with points between them, for example 10.20.40.22'

/** @throws RangeError when `bits` is not an unsigned 32-bit number: that is a programmer's mistake */
export function ipv4FromBits(bits: number): Ipv4 {
  if (!Number.isInteger(bits) || bits < 0 || bits > 0xffffffff) throw new RangeError(`Not 32 bits: ${bits}`)
  return bits as Ipv4
}

/**
 * An address written in the source code.
 * @throws RangeError when it is not one
 * @example ipv4('10.20.40.22')
 */
export function ipv4(text: string): Ipv4 {
  const read = parseIpv4(text)
  if (!read.ok) throw new RangeError(read.refusal.what)
  return read.value
}

/** The four octets, first one first. */
export function octetsOf(address: Ipv4): readonly [number, number, number, number] {
  return [address >>> 24, (address >>> 16) & 255, (address >>> 8) & 255, address & 255]
}

export function ipv4FromOctets(octets: readonly [number, number, number, number]): Ipv4 {
  return ipv4FromBits(octets.reduce((bits, octet) => bits * 256 + octet, 0))
}

/** @example formatIpv4(ipv4('10.20.40.22')) // '10.20.40.22' */
export function formatIpv4(address: Ipv4): string {
  return octetsOf(address).join('.')
}

/**
 * Reads an IPv4 address strictly: four decimal octets, no leading zeros, nothing around it but spaces.
 *
 * What is refused carries the likely reading as an offer: a keypad shows `010.020.040.022`, the plan wants
 * `10.20.40.22`. Octal-looking octets (`010`) are refused because programs disagree on them: 8 or 10.
 *
 * @source RFC 6943 3.1.1 (loose forms and octal are a known cause of misreadings); RFC 3986 3.2.2, `dec-octet`
 * @example parseIpv4('10.20.40.256') // refused: octet 4 is 256, above 255
 */
export function parseIpv4(text: string): Result<Ipv4> {
  const typed = text.trim()
  // Nearly all that is read is in order; what is not goes the long way, where it is told why.
  const octets = DOTTED.exec(typed)
  if (octets) return ok(octets.slice(1).reduce((bits, octet) => bits * 256 + Number(octet), 0) as Ipv4)
  if (typed === '') return refusal('ipv4.blank', 'The address is blank.', 'nothing', EXPECTED)

  const attached = /^(\d{1,3}(?:\.\d{1,3}){3})\s*(\/\s*\d+|:\d+)$/.exec(typed)
  if (attached) return refuseAttached(typed, attached[1] ?? '', attached[2] ?? '')

  if (/[\s,;]/.test(typed) && /^[\d\s.,;]+$/.test(typed)) {
    const parts = typed.split(/[\s.,;]+/).filter((part) => part !== '')
    return refusal(
      'ipv4.separators',
      `"${typed}" has ${/,|;/.test(typed) ? 'another separator than a point' : 'spaces inside'}.`,
      typed,
      EXPECTED,
      offerParts(parts),
    )
  }
  if (!/^[\d.]+$/.test(typed)) return refuseForeign(typed)

  const parts = typed.split('.')
  if (parts.length !== 4 || parts.includes('')) {
    return refusal(
      'ipv4.parts',
      parts.length < 4 && !parts.includes('')
        ? `"${typed}" has ${parts.length} of 4 numbers. Short forms are read differently by different programs.`
        : `"${typed}" does not have four numbers with points between them.`,
      typed,
      EXPECTED,
      offerParts(parts.filter((part) => part !== '')),
    )
  }
  const tooLarge = parts.findIndex((part) => Number(part) > 255)
  if (tooLarge >= 0) {
    return refusal('ipv4.octet-too-large', `Number ${tooLarge + 1} is ${parts[tooLarge]}, above 255.`, typed, EXPECTED)
  }
  const tooLong = parts.findIndex((part) => part.length > 3)
  if (tooLong >= 0) {
    return refusal(
      'ipv4.octet-digits',
      `Number ${tooLong + 1} is written with ${parts[tooLong]?.length} digits, ${parts[tooLong]}; at most three are used.`,
      typed,
      EXPECTED,
      offerParts(parts),
    )
  }
  // Four numbers of up to three digits, none above 255, and not in order: zeros are in front.
  return refusal(
    'ipv4.leading-zero',
    `"${typed}" has leading zeros. A keypad shows them; some programs would read 010 as 8.`,
    typed,
    EXPECTED,
    offerParts(parts),
  )
}

function refuseAttached(typed: string, address: string, tail: string) {
  const what = tail.startsWith(':')
    ? `"${typed}" carries a port. The port has a field of its own.`
    : `"${typed}" carries a mask. The mask has a field of its own.`
  return refusal('ipv4.attached', what, typed, EXPECTED, offerParts(address.split('.')))
}

function refuseForeign(typed: string) {
  // Before anything is cut off: the O of 10.20.40.1O is a digit, and without it the address is another.
  const lookAlike = typed.replace(/[oO]/g, '0').replace(/[lI]/g, '1')
  if (/^[\d.]+$/.test(lookAlike)) {
    return refusal(
      'ipv4.look-alike',
      `"${typed}" has letters that look like digits.`,
      typed,
      EXPECTED,
      offerParts(lookAlike.split('.')),
    )
  }
  const inside = /(?<![\d.])(\d{1,3}(?:\.\d{1,3}){3})(?![\d.])/.exec(typed)
  if (inside) {
    return refusal(
      'ipv4.surrounded',
      `"${typed}" has other characters around the address.`,
      typed,
      EXPECTED,
      offerParts((inside[1] ?? '').split('.')),
    )
  }
  return refusal('ipv4.not-an-address', `"${typed}" is not an IPv4 address.`, typed, EXPECTED)
}

/** The decimal reading of four parts, as one action; nothing when they cannot make an address. */
function offerParts(parts: readonly string[]): readonly Offer[] {
  const octets = parts.map(Number)
  if (octets.length !== 4 || octets.some((octet) => !Number.isInteger(octet) || octet > 255)) return []
  const value = octets.join('.')
  return [{ label: `Use ${value}`, value }]
}
