import type { Evidence } from '../evidence'
import type { OwnKind } from '../kind'
import type { Decision } from '../ladder'
import type { OwnPlace, TermId } from '../terms'
import type { ByteOrder, DataType } from '../values'
import type {
  acceptanceFields,
  deviceFields,
  handshakeFields,
  jobFields,
  lineFields,
  networkFields,
  nodeFields,
  pointFields,
  portFields,
  requestFields,
  standingFields,
  termFields,
  ValuesOf,
} from './rows'

/** Real equipment, or stand-ins on loopback addresses. Stamped on every reading. */
export type Mode = 'plant' | 'bench'

/** What every row that people edit has: its id, and a version for optimistic locking. */
export interface Row {
  readonly id: string
  readonly version: number
}

/** A job as it is stored and as it travels. What stands in each row is said in `rows`. */
export interface Job extends Row, ValuesOf<typeof jobFields> {
  readonly networks: readonly Network[]
  readonly lines: readonly Line[]
  readonly devices: readonly Device[]
  readonly handshakes: readonly Handshake[]
  readonly forced: readonly ForcedValue[]
  readonly kinds: readonly OwnKind[]
  readonly requests: readonly AskedOfOthers[]
  readonly acceptances: readonly Acceptance[]
  /** What was found, entered and seen in force of the terms, in the order in which it was said. */
  readonly standings: readonly SeenTerm[]
  /** Everything seen, in the order in which it was recorded, whatever it is about. */
  readonly evidence: readonly Evidence[]
}

/** Where addresses of a kind go in this job: "drives .20 to .39". */
export interface AddressRule {
  readonly kind: string
  /** Lowest and highest last octet. */
  readonly first: number
  readonly last: number
}

/** Where an address lives: set in the device, or given by a DHCP server that knows its hardware address. */
export type School = 'static' | 'dhcp-reservation'

export type LineMedium =
  'rs-232' | 'rs-422' | 'rs-485-two-wire' | 'rs-485-four-wire' | 'field-bus' | 'motion-bus' | 'token-bus' | 'backplane'

export type RequestKind = 'range' | 'reservation' | 'grid-setting' | 'order-code' | 'other'

/** What stands in a term at one end, and who saw it when. */
export interface SeenTerm extends Row, ValuesOf<typeof standingFields> {
  readonly who: string
  readonly at: number
}

export interface Network extends Row, ValuesOf<typeof networkFields> {}

/** A serial line or a bus: what its devices are numbered by is a family of nodes. */
export interface Line extends Row, ValuesOf<typeof lineFields> {}

/** One place of a device on a line. A two-axis drive has two. */
export interface DeviceNode extends Row, ValuesOf<typeof nodeFields> {}

export interface Device extends Row, ValuesOf<typeof deviceFields> {
  readonly ports: readonly Port[]
  readonly nodes: readonly DeviceNode[]
}

/** One place where a name stands: a project file, a server, a display. */
export interface NamePlace {
  readonly where: string
  readonly text: string
}

/** Where a device mirrors a setting: a text that `readMirror` reads. */
export interface TermMirror {
  readonly termId: TermId
  readonly text: string
}

export interface Port extends Row, ValuesOf<typeof portFields> {}

export interface Handshake extends Row, ValuesOf<typeof handshakeFields> {
  readonly terms: readonly Term[]
  readonly points: readonly Point[]
  readonly decisions: readonly StoredDecision[]
}

/** What one end says of one term. Terms that the line-up knows are not stored again. */
export interface Term extends Row, ValuesOf<typeof termFields> {}

/** One quantity that travels: from the device's register to the controller's tag to a screen. */
export interface Point extends Row, ValuesOf<typeof pointFields> {}

/** Where a device keeps a point, where that is not what the terms say. */
export type Source = OwnPlace

/** Where a controller serves the tag, and as what. */
export interface Served {
  readonly register: string
  readonly type: DataType
  readonly order: ByteOrder
}

export interface Reference {
  readonly value: number
  /** The instrument or display, and who read it when. */
  readonly origin: string
}

export interface StoredDecision extends Decision {
  readonly id: string
}

/** A value held by hand somewhere. Outstanding until it is released. */
export interface ForcedValue extends Row {
  readonly where: string
  readonly value: string
  readonly who: string
  readonly at: number
  readonly releasedBy: string | null
  readonly releasedAt: number | null
}

/** Something only others can give: a range, a reservation, a setting, an order code. Days as `2026-11-25`. */
export interface AskedOfOthers extends Row, ValuesOf<typeof requestFields> {}

/** A finding that a person lets stand, with the reason. It lapses when what was found changes. */
export interface Acceptance extends Row, ValuesOf<typeof acceptanceFields> {
  readonly who: string
  readonly at: number
}
