import type { Decision, Evidence } from '../ladder'
import type { Notation } from '../modbus'
import type { End, TermId } from '../terms'
import type { DataType, ByteOrder, Tolerance } from '../values'

/** Real equipment, or stand-ins on loopback addresses. Stamped on every reading. */
export type Mode = 'plant' | 'bench'

/** A job as it is stored and as it travels. Rows that people edit carry a version for optimistic locking. */
export interface Job {
  readonly id: string
  readonly name: string
  readonly place: string
  readonly mode: Mode
  readonly version: number
  readonly networks: readonly Network[]
  readonly devices: readonly Device[]
  readonly handshakes: readonly Handshake[]
  readonly forced: readonly ForcedValue[]
}

export interface Network {
  readonly id: string
  readonly name: string
  /** CIDR, for example 10.20.40.0/24. */
  readonly cidr: string
  readonly gateway: string | null
  readonly vlan: number | null
  /** Ranges with commas between them. */
  readonly dhcp: string
  readonly reserved: string
  readonly version: number
}

export interface Device {
  readonly id: string
  readonly position: number
  readonly tag: string
  readonly what: string
  readonly kind: DeviceKind
  /** The gateway, rack or converter that this device hangs behind. */
  readonly behindId: string | null
  readonly unitId: number | null
  readonly asFound: string
  readonly note: string
  readonly version: number
  readonly ports: readonly Port[]
}

/** Generic kinds; what they need by default is in `deviceKinds`. */
export type DeviceKind =
  | 'controller'
  | 'drive'
  | 'remote-io'
  | 'gateway'
  | 'field-device'
  | 'meter'
  | 'inverter'
  | 'ups-card'
  | 'device-server'
  | 'code-reader'
  | 'supervisor'

export interface Port {
  readonly id: string
  readonly name: string
  readonly networkId: string | null
  /** The planned address. */
  readonly address: string | null
  /** The device's own mask; `null` takes the mask of its network. */
  readonly prefix: number | null
  readonly gateway: string | null
  readonly tcpPort: number
  /** Hardware address, in capital pairs with colons. */
  readonly mac: string | null
  readonly version: number
}

export interface Handshake {
  readonly id: string
  readonly position: number
  readonly name: string
  readonly controllerId: string
  readonly deviceId: string
  readonly version: number
  readonly terms: readonly Term[]
  readonly points: readonly Point[]
  readonly evidence: readonly StoredEvidence[]
  readonly decisions: readonly StoredDecision[]
}

/** What one end says of one term. Terms that the line-up knows are not stored again. */
export interface Term {
  readonly id: string
  readonly termId: TermId
  readonly end: End
  readonly text: string
  readonly notation: Notation | null
  readonly origin: string
  readonly version: number
}

/** One quantity that travels: from the device's register to the controller's tag to a screen. */
export interface Point {
  readonly id: string
  /** The tag in the controller. */
  readonly tag: string
  readonly quantity: string
  readonly unit: string
  readonly decimals: number
  /** Where the controller serves the tag, and as what; `null` where it cannot be asked. */
  readonly served: { readonly register: string; readonly type: DataType; readonly order: ByteOrder } | null
  /** The screen where people see it. */
  readonly shownAt: string
  readonly reference: Reference | null
  readonly tolerance: Tolerance
  readonly version: number
}

export interface Reference {
  readonly value: number
  /** The instrument or display, and who read it when. */
  readonly origin: string
}

/** Evidence with what was seen at each hop. */
export interface StoredEvidence extends Evidence {
  readonly mode: Mode
  /** Words, values and times by hop, as lines of text. */
  readonly detail: readonly string[]
}

export interface StoredDecision extends Decision {
  readonly id: string
}

/** A value held by hand somewhere. Outstanding until it is released. */
export interface ForcedValue {
  readonly id: string
  readonly where: string
  readonly value: string
  readonly who: string
  readonly at: number
  readonly releasedBy: string | null
  readonly releasedAt: number | null
  readonly version: number
}
