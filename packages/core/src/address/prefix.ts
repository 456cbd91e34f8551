import { ok, parseWholeNumber, refusal, type Brand, type Result } from '../units'
import { formatIpv4, ipv4FromBits, parseIpv4, type Ipv4 } from './ipv4'

/** How many leading bits are the network part: 0 to 32. */
export type PrefixLength = Brand<number, 'PrefixLength'>

const EXPECTED = 'a subnet mask such as 255.255.255.0, or a prefix length such as 24'

/** @throws RangeError outside 0 to 32 */
export function prefixLength(bits: number): PrefixLength {
  if (!Number.isInteger(bits) || bits < 0 || bits > 32) throw new RangeError(`Not a prefix length: ${bits}`)
  return bits as PrefixLength
}

/** The subnet mask of a prefix length. @example formatIpv4(maskOf(prefixLength(20))) // '255.255.240.0' */
export function maskOf(prefix: PrefixLength): Ipv4 {
  return ipv4FromBits(prefix === 0 ? 0 : (0xffffffff << (32 - prefix)) >>> 0)
}

/** @example formatMask(prefixLength(24)) // '255.255.255.0' */
export function formatMask(prefix: PrefixLength): string {
  return formatIpv4(maskOf(prefix))
}

/**
 * Reads a subnet mask: dotted (`255.255.255.0`) or a prefix length (`24`, `/24`). A mask whose ones are not in one
 * piece is refused; a wildcard mask (`0.0.0.255`) is refused with its complement as the likely reading.
 *
 * @source RFC 4632 5.1 (masks are contiguous); RFC 950
 */
export function parseMask(text: string): Result<PrefixLength> {
  const typed = text.trim()
  if (typed === '') return refusal('mask.blank', 'The subnet mask is blank.', 'nothing', EXPECTED)
  const short = /^\/?\s*(\d+)$/.exec(typed)
  if (short) {
    const bits = parseWholeNumber(short[1] ?? '', { name: 'Prefix length', min: 0, max: 32 })
    return bits.ok ? ok(bits.value as PrefixLength) : bits
  }
  const address = parseIpv4(typed)
  if (!address.ok) {
    return refusal(
      'mask.not-a-mask',
      `"${typed}" is not a subnet mask. ${address.refusal.what}`,
      typed,
      EXPECTED,
      address.refusal.offers,
    )
  }
  const bits = leadingOnes(address.value)
  if (maskOf(bits) === address.value) return ok(bits)
  const inverse = ipv4FromBits(~address.value >>> 0)
  const wildcard = maskOf(leadingOnes(inverse)) === inverse
  return refusal(
    wildcard ? 'mask.wildcard' : 'mask.gaps',
    wildcard
      ? `${typed} is the mask turned inside out (a wildcard mask).`
      : `${typed} has a gap: in a subnet mask all ones stand before all zeros.`,
    typed,
    EXPECTED,
    wildcard ? [{ label: `Use ${formatIpv4(inverse)}`, value: formatIpv4(inverse) }] : [],
  )
}

function leadingOnes(mask: Ipv4): PrefixLength {
  return prefixLength(Math.clz32(~mask >>> 0))
}
