import type { Rung } from '../ladder'
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
  /** What its menu over the serial socket shows and takes; left out where it has none, or where nobody described it. */
  readonly menu?: MenuFacts
}
