import { ok, refusal, type Brand, type Result } from '../units'

/** A hardware address in one notation: capital pairs with colons. */
export type HardwareAddress = Brand<string, 'HardwareAddress'>

const EXPECTED = 'twelve hexadecimal digits, for example 02:5E:0B:10:7C:14'

/**
 * Reads a hardware (MAC) address in any notation: colons, hyphens, points in threes, spaces, or none. Letters that only
 * look like digits are refused, with the likely reading. The addresses of a group and of everybody are refused: no
 * device has one.
 *
 * @source IEEE 802-2014 8.1 (notation), 8.2.2 (the group bit)
 * @example parseHardwareAddress('025e.0b10.7c14') // '02:5E:0B:10:7C:14'
 */
export function parseHardwareAddress(text: string): Result<HardwareAddress> {
  const typed = text.trim()
  if (typed === '') return refusal('mac.blank', 'The hardware address is blank.', 'nothing', EXPECTED)
  const digits = typed.replace(/[\s:.-]/g, '').toUpperCase()
  if (/^[0-9A-F]{12}$/.test(digits)) return readDigits(typed, digits)
  const meant = digits.replace(/O/g, '0').replace(/[IL]/g, '1')
  if (/^[0-9A-F]{12}$/.test(meant)) {
    const value = inPairs(meant)
    const wrong = [...new Set([...digits].filter((digit, k) => digit !== meant[k]))].join(', ')
    return refusal('mac.look-alike', `${wrong} cannot stand in a hardware address.`, typed, EXPECTED, [
      { label: `Use ${value}`, value },
    ])
  }
  const odd = [...digits].find((digit) => !/[0-9A-F]/.test(digit))
  return odd
    ? refusal('mac.digit', `"${odd}" is not a hexadecimal digit.`, typed, EXPECTED)
    : refusal('mac.length', `The address has ${digits.length} of 12 digits.`, typed, EXPECTED)
}

function readDigits(typed: string, digits: string): Result<HardwareAddress> {
  if (/^0+$/.test(digits))
    return refusal('mac.zero', 'All zeros is no address: the device has not said its own.', typed, EXPECTED)
  if (parseInt(digits.slice(0, 2), 16) & 1) {
    return refusal('mac.group', 'This is the address of a group, not of one device.', typed, EXPECTED)
  }
  return ok(inPairs(digits) as HardwareAddress)
}

const inPairs = (digits: string): string => (digits.match(/../g) ?? []).join(':')
