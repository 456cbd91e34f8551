import { formatIpv4, ipv4FromBits } from '../address'
import { parseHardwareAddress } from '../identity'
import { printable } from './encapsulation'

/** UDP port at which a server hears requests for a lease. @source RFC 2131, section 4.1 */
export const LEASE_PORT = 67

const FIXED = 236
const COOKIE = 0x63825363
/** @source RFC 2132: pad, host name, requested address, message type, vendor class, end */
const OPTIONS = { pad: 0, hostName: 12, requested: 50, messageType: 53, vendorClass: 60, end: 255 } as const

/** A device that asks for an address: it is there, whatever it has. */
export interface LeaseRequest {
  readonly hardwareAddress: string
  readonly kind: 'discover' | 'request' | 'other'
  /** The address it would like, or has; blank where it has none. */
  readonly address: string
  readonly hostName: string
  readonly vendorClass: string
}

export type LeaseReading =
  { readonly ok: true; readonly request: LeaseRequest } | { readonly ok: false; readonly why: string }

/** Reads a request for a lease as it was heard. @source RFC 2131, section 2; options RFC 2132 */
export function readLeaseRequest(bytes: Uint8Array): LeaseReading {
  const no = (why: string): LeaseReading => ({ ok: false, why })
  if (bytes.length < FIXED + 4) return no(`${bytes.length} bytes; at least ${FIXED + 4} are expected`)
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.length)
  if (bytes[0] !== 1) return no('not a request')
  if (bytes[1] !== 1 || bytes[2] !== 6) return no('a hardware address of another kind')
  if (view.getUint32(FIXED, false) !== COOKIE) return no('without the cookie of its options')
  const options = new Map<number, Uint8Array>()
  for (let at = FIXED + 4; at < bytes.length;) {
    const code = bytes[at] ?? OPTIONS.end
    if (code === OPTIONS.end) break
    if (code === OPTIONS.pad) {
      at += 1
      continue
    }
    const length = bytes[at + 1] ?? 0
    if (at + 2 + length > bytes.length) return no(`option ${code} is cut short`)
    options.set(code, bytes.subarray(at + 2, at + 2 + length))
    at += 2 + length
  }
  const text = (code: number) => printable(new TextDecoder('latin1').decode(options.get(code) ?? new Uint8Array()))
  const wanted = options.get(OPTIONS.requested)
  const own = view.getUint32(12, false)
  const asked = wanted?.length === 4 ? new DataView(wanted.buffer, wanted.byteOffset, 4).getUint32(0, false) : own
  const type = options.get(OPTIONS.messageType)?.[0]
  const hardware = parseHardwareAddress(
    [...bytes.subarray(28, 34)].map((byte) => byte.toString(16).padStart(2, '0')).join(''),
  )
  if (!hardware.ok) return no(hardware.refusal.what)
  return {
    ok: true,
    request: {
      hardwareAddress: hardware.value,
      kind: type === 1 ? 'discover' : type === 3 ? 'request' : 'other',
      address: asked === 0 ? '' : formatIpv4(ipv4FromBits(asked)),
      hostName: text(OPTIONS.hostName),
      vendorClass: text(OPTIONS.vendorClass),
    },
  }
}

/** A request for a lease, as a device broadcasts it that has no address yet. */
export function leaseDiscover(hardwareAddress: string, hostName: string, transaction: number): Uint8Array {
  const name = new TextEncoder().encode(hostName.slice(0, 60))
  const bytes = new Uint8Array(Math.max(300, FIXED + 4 + 3 + 2 + name.length + 1))
  const view = new DataView(bytes.buffer)
  bytes.set([1, 1, 6, 0])
  view.setUint32(4, transaction >>> 0, false)
  // The answer is to be broadcast: it has no address that it could hear one at.
  view.setUint16(10, 0x8000, false)
  bytes.set(
    hardwareAddress.split(':').map((pair) => Number.parseInt(pair, 16)),
    28,
  )
  view.setUint32(FIXED, COOKIE, false)
  bytes.set([OPTIONS.messageType, 1, 1, OPTIONS.hostName, name.length, ...name, OPTIONS.end], FIXED + 4)
  return bytes
}
