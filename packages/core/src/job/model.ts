import type { VersionRelation } from '../identity'
import type { OwnKind, RestartRule, WayOfSetting } from '../kind'
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
  /** Blocks that differ from those of the kinds. */
  readonly addressRules: readonly AddressRule[]
  readonly networks: readonly Network[]
  readonly lines: readonly Line[]
  readonly devices: readonly Device[]
  readonly handshakes: readonly Handshake[]
  readonly forced: readonly ForcedValue[]
  readonly kinds: readonly OwnKind[]
  readonly requests: readonly AskedOfOthers[]
  readonly acceptances: readonly Acceptance[]
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
  readonly school: School
  readonly version: number
}

/** A serial line or a bus: what its devices are numbered by is a family of nodes. */
export interface Line {
  readonly id: string
  readonly name: string
  readonly medium: LineMedium
  /** Id of the family of nodes. */
  readonly family: string
  /** In short, for example `9600 8N1`. */
  readonly settings: string
  readonly version: number
}

export type LineMedium =
  'rs-232' | 'rs-422' | 'rs-485-two-wire' | 'rs-485-four-wire' | 'field-bus' | 'motion-bus' | 'token-bus' | 'backplane'

/** One place of a device on a line. A two-axis drive has two. */
export interface DeviceNode {
  readonly id: string
  readonly lineId: string
  /** What of the device sits there, where it has several: `axis 2`. */
  readonly name: string
  /** The number of the node, whatever base it is written in; `null` while it is not planned. */
  readonly node: number | null
  readonly isMaster: boolean
  readonly version: number
}

export interface Device {
  readonly id: string
  readonly position: number
  readonly tag: string
  readonly what: string
  /** Id of a kind: one that ships, or one of the job's own. */
  readonly kind: string
  /** The gateway, rack or converter that this device hangs behind. */
  readonly behindId: string | null
  readonly unitId: number | null
  readonly asFound: string
  readonly note: string
  /** Panel, field, room. */
  readonly place: string
  /** The breaker or isolation group that takes its power. */
  readonly isolation: string
  /** As the parts list says. */
  readonly orderCode: string
  /** As the label says. */
  readonly orderCodeFound: string
  readonly serialNumber: string
  readonly firmwareFound: string
  readonly firmwareNeeded: string
  readonly firmwareRelation: VersionRelation
  /** The device whose firmware is the measure; `null` where `firmwareNeeded` is. */
  readonly firmwareOfId: string | null
  readonly hostName: string
  /** Where else its name must stand, and what stands there. */
  readonly namePlaces: readonly NamePlace[]
  /** `null` where the kind says it. */
  readonly setting: WayOfSetting | null
  readonly effective: RestartRule | null
  readonly startUpSeconds: number | null
  readonly handsOnSeconds: number | null
  readonly version: number
  readonly ports: readonly Port[]
  readonly nodes: readonly DeviceNode[]
}

/** One place where a name stands: a project file, a server, a display. */
export interface NamePlace {
  readonly where: string
  readonly text: string
}

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
  /** `null` where the network says it. */
  readonly school: School | null
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

/** Something only others can give: a range, a reservation, a setting, an order code. */
export interface AskedOfOthers {
  readonly id: string
  readonly about: RequestKind
  readonly what: string
  readonly toWhom: string
  readonly deviceIds: readonly string[]
  /** Days as `2026-11-25`. */
  readonly askedOn: string | null
  readonly dueOn: string | null
  readonly answer: string
  readonly answeredOn: string | null
  readonly version: number
}

export type RequestKind = 'range' | 'reservation' | 'grid-setting' | 'order-code' | 'other'

/** A finding that a person lets stand, with the reason. It lapses when what was found changes. */
export interface Acceptance {
  readonly id: string
  readonly rule: string
  readonly subjectId: string
  /** What was found when it was accepted. */
  readonly found: string
  readonly reason: string
  readonly who: string
  readonly at: number
  readonly version: number
}
