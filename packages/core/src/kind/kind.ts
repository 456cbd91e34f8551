import type { Rung } from '../ladder'
import type { OwnPlace, TermId } from '../terms'
import type { MenuFacts } from '../menu'
import type { LampPattern } from './lamp'
import type { RestartRule } from './restartRules'
import type { WayOfSetting } from './waysOfSetting'

/** What a kind is there for. Decides its mark in pictures and who may ask whom. */
export type DeviceRole =
  'controller' | 'drive' | 'io' | 'gateway' | 'field' | 'meter' | 'power' | 'supervision' | 'operator'

/** Roles with their words. */
export const deviceRoles: Readonly<Record<DeviceRole, string>> = {
  controller: 'Controls',
  drive: 'Moves',
  io: 'Inputs and outputs',
  gateway: 'Passes on',
  field: 'In the field',
  meter: 'Measures energy',
  power: 'Supplies',
  supervision: 'Supervises',
  operator: 'Operated by people',
}

/** One lamp or display, one pattern of it, and what that means. */
export interface LampMeaning {
  readonly lamp: string
  readonly pattern: LampPattern
  readonly means: string
  /** It tells of trouble: seen, the next thing is its cause. */
  readonly trouble?: boolean
}

export interface Socket {
  readonly name: string
  readonly use: string
  /** Looks like a network socket: people plug a network cable into it. */
  readonly looksLikeNetwork: boolean
  readonly isNetwork: boolean
}

/** One quantity that is usually read of a kind; where it lies as its terms say there is no place. */
export interface TypicalPoint {
  readonly quantity: string
  readonly unit: string
  readonly decimals: number
  readonly place: OwnPlace | null
}

/** Something that is usually wanted of a kind. Where it lies its manual says. */
export interface UsualQuantity {
  readonly quantity: string
  readonly unit: string
  readonly decimals: number
}

/** Bytes that a module adds to the image of its head. */
export interface ModuleImage {
  readonly inputBytes: number
  readonly outputBytes: number
}

/** What a description file says of a kind, as far as terms are judged by it. */
export interface DescribedBy {
  readonly product: string
  readonly orderCode?: string
  /** Revision of the device that the file is made for. */
  readonly revision?: string
  readonly fileRevision?: string
  readonly nodes?: readonly [number, number]
  /** In bit/s; empty where the file does not say. */
  readonly rates: readonly number[]
  readonly modules: readonly ({ readonly name: string } & ModuleImage)[]
}

/** A generic kind of device: what it has out of the box and how its address is set. Values begin the plan; the manual counts. */
export interface DeviceKindFacts {
  /** Small letters, digits and hyphens; unique among the kinds of a job. */
  readonly id: string
  readonly name: string
  readonly role: DeviceRole
  /** Last octets that a job usually keeps for this kind, lowest and highest. */
  readonly block: readonly [number, number]
  /** Rungs that this kind does not need; a person may overrule. */
  readonly notApplying: readonly Rung[]
  /** Address out of the box; `lease` asks a server, `none` has no address before it is set. */
  readonly defaultAddress:
    | { readonly kind: 'fixed'; readonly address: string; readonly prefix: number }
    | { readonly kind: 'lease' }
    | { readonly kind: 'none' }
  /** Node out of the box, on a bus of this family; how many nodes one device takes. */
  readonly defaultNode: {
    readonly family: string
    readonly node: number | null
    readonly nodeCount: number
    /** It is the one that asks the others. */
    readonly isMaster: boolean
  } | null
  readonly setting: WayOfSetting
  readonly effective: RestartRule
  readonly startUpSeconds: number
  readonly handsOnSeconds: number
  readonly lamps: readonly LampMeaning[]
  readonly sockets: readonly Socket[]
  /** What it cannot do, in a sentence each. */
  readonly limits: readonly string[]
  /** What to look at before it gets power, in order. */
  readonly beforePower: readonly string[]
  /** What is measured before power, with an instrument: a value is written down, a tick does not do. */
  readonly measuredBefore?: readonly string[]
  /** What terms it has out of the box at its own end, and what it takes at most, by the id of the term. */
  readonly terms?: Readonly<Partial<Record<TermId, string>>>
  /** What is usually read of it; a handshake with it begins with these. */
  readonly points?: readonly TypicalPoint[]
  /** What is usually wanted of it: offered where points are added, without a register. */
  readonly usual?: readonly UsualQuantity[]
  /** Registers that show what its settings stand at, by the id of the term: see `readMirror`. */
  readonly mirrors?: Readonly<Partial<Record<TermId, string>>>
  /** For a module of a row. */
  readonly image?: ModuleImage
  /** What its description file says; left out where it was made of none. */
  readonly describedBy?: DescribedBy
  /** What its menu over the serial socket shows and takes; left out where it has none, or where nobody described it. */
  readonly menu?: MenuFacts
}
