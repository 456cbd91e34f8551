import { formatIpv4, ipv4FromBits } from '../address'
import type { Ipv4 } from '../address'

/** UDP port at which devices are asked who they are. @source IEC 61158, type 2, encapsulation; the number is registered with IANA */
export const IDENTITY_PORT = 44_818

const LIST_IDENTITY = 0x0063
const IDENTITY_ITEM = 0x000c
const HEADER = 24
/** From the item's type to the length of the name: version, socket address, seven numbers. */
const FIXED = 33

/** What a device says of itself, as numbers and a name. */
export interface EncapsulatedIdentity {
  /** Its own address, as it says it. */
  readonly address: Ipv4
  readonly port: number
  readonly vendor: number
  readonly deviceType: number
  readonly productCode: number
  readonly revision: { readonly major: number; readonly minor: number }
  readonly status: number
  readonly serialNumber: number
  readonly productName: string
  readonly state: number
}

/** Its serial number as it is written: eight hexadecimal digits. */
export const serialText = ({ serialNumber }: Pick<EncapsulatedIdentity, 'serialNumber'>): string =>
  serialNumber.toString(16).toUpperCase().padStart(8, '0')

function header(length: number, context: Uint8Array): Uint8Array {
  const bytes = new Uint8Array(HEADER + length)
  const view = new DataView(bytes.buffer)
  view.setUint16(0, LIST_IDENTITY, true)
  view.setUint16(2, length, true)
  // Session 0 and status 0; then the sender's context, which comes back as it was sent.
  bytes.set(context.subarray(0, 8), 12)
  return bytes
}

/**
 * How long a device may wait before it answers, ms: they spread their answers over it, so that not all come at once.
 * Shorter than the time to the next question.
 */
export const LONGEST_ANSWER_MS = 1_000

/** As many bytes of a question are its own; two more before them say how long an answer may take. */
export const CONTEXT_BYTES = 6

/**
 * The question "who are you", to be broadcast.
 *
 * @param context six bytes that every answer has to repeat
 * @source IEC 61158, type 2, encapsulation: a header of 24 bytes, low byte first, command 63 hex, no data; in a question
 * the first two of the eight bytes of context are the longest delay of an answer. From memory, and as a dissector reads it.
 */
export function listIdentityRequest(context: Uint8Array): Uint8Array {
  const whole = new Uint8Array(2 + CONTEXT_BYTES)
  new DataView(whole.buffer).setUint16(0, LONGEST_ANSWER_MS, true)
  whole.set(context.subarray(0, CONTEXT_BYTES), 2)
  return header(0, whole)
}

/** Whether a datagram asks who is there. */
export const isListIdentityRequest = (bytes: Uint8Array): boolean =>
  bytes.length === HEADER && bytes[0] === LIST_IDENTITY && bytes[1] === 0 && bytes[2] === 0 && bytes[3] === 0

/** The context of a question or an answer, eight bytes: the delay and what the question is known by. */
export const contextOf = (bytes: Uint8Array): Uint8Array => bytes.subarray(12, 20)

/** An answer, as a device gives it. Its own numbers are low byte first, the socket address is high byte first. */
export function listIdentityReply(identity: EncapsulatedIdentity, context: Uint8Array): Uint8Array {
  const name = new TextEncoder().encode(identity.productName.slice(0, 32))
  const item = FIXED + name.length + 1
  const bytes = header(2 + 4 + item, context)
  const view = new DataView(bytes.buffer)
  let at = HEADER
  const small = (value: number) => view.setUint8((at += 1) - 1, value)
  const short = (value: number, low = true) => view.setUint16((at += 2) - 2, value, low)
  const long = (value: number, low = true) => view.setUint32((at += 4) - 4, value, low)
  short(1)
  short(IDENTITY_ITEM)
  short(item)
  short(1)
  short(2, false)
  short(identity.port, false)
  long(identity.address, false)
  long(0)
  long(0)
  short(identity.vendor)
  short(identity.deviceType)
  short(identity.productCode)
  small(identity.revision.major)
  small(identity.revision.minor)
  short(identity.status)
  long(identity.serialNumber)
  small(name.length)
  bytes.set(name, at)
  at += name.length
  small(identity.state)
  return bytes
}

export type IdentityReading =
  { readonly ok: true; readonly identity: EncapsulatedIdentity } | { readonly ok: false; readonly why: string }

/**
 * Reads an answer. One to another question, cut short, or with lengths that do not fit is refused with the reason: it is
 * never shown as a device.
 */
export function readListIdentityReply(bytes: Uint8Array, context: Uint8Array): IdentityReading {
  const no = (why: string): IdentityReading => ({ ok: false, why })
  if (bytes.length < HEADER) return no(`${bytes.length} bytes; a header has ${HEADER}`)
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.length)
  const command = view.getUint16(0, true)
  if (command !== LIST_IDENTITY) return no(`command ${command}; asked was ${LIST_IDENTITY}`)
  const length = view.getUint16(2, true)
  if (length !== bytes.length - HEADER) return no(`length ${length}; ${bytes.length - HEADER} bytes follow`)
  const status = view.getUint32(8, true)
  if (status !== 0) return no(`status ${status}`)
  const own = contextOf(bytes).subarray(2)
  if (own.some((byte, place) => byte !== (context[place] ?? 0))) return no('an answer to another question')
  if (length < 6) return no('no item')
  const count = view.getUint16(HEADER, true)
  let at = HEADER + 2
  for (let n = 0; n < count; n += 1) {
    if (at + 4 > bytes.length) return no(`item ${n + 1} of ${count} is missing`)
    const type = view.getUint16(at, true)
    const size = view.getUint16(at + 2, true)
    at += 4
    if (at + size > bytes.length) return no(`item ${n + 1} has ${size} bytes; ${bytes.length - at} are there`)
    if (type === IDENTITY_ITEM) return readItem(bytes, view, at, size)
    at += size
  }
  return no('no identity among its items')
}

function readItem(bytes: Uint8Array, view: DataView, at: number, size: number): IdentityReading {
  const nameLength = size > FIXED ? view.getUint8(at + FIXED - 1) : -1
  if (nameLength < 0 || FIXED + nameLength + 1 > size)
    return { ok: false, why: `an identity of ${size} bytes; its name does not fit` }
  const name = new TextDecoder('latin1').decode(bytes.subarray(at + FIXED, at + FIXED + nameLength))
  return {
    ok: true,
    identity: {
      port: view.getUint16(at + 4, false),
      address: ipv4FromBits(view.getUint32(at + 6, false)),
      vendor: view.getUint16(at + 18, true),
      deviceType: view.getUint16(at + 20, true),
      productCode: view.getUint16(at + 22, true),
      revision: { major: view.getUint8(at + 24), minor: view.getUint8(at + 25) },
      status: view.getUint16(at + 26, true),
      serialNumber: view.getUint32(at + 28, true),
      productName: printable(name),
      state: view.getUint8(at + FIXED + nameLength),
    },
  }
}

/** A name from the wire, without what cannot be shown. */
export const printable = (text: string): string => text.replace(/[^\x20-\x7e\xa0-\xff]/g, '').trim()

/** In one line: what it is, which revision, which serial number. */
export function identityWords(identity: EncapsulatedIdentity): string {
  const { productName, revision } = identity
  return `${productName || 'without a name'}, ${revision.major}.${revision.minor}, serial number ${serialText(identity)}`
}

export const addressText = ({ address }: EncapsulatedIdentity): string => formatIpv4(address)
