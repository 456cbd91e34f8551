import type { AddressRange, Ipv4, PrefixLength } from '../../address'

/** An address with its mask. */
export interface HostAddress {
  readonly address: Ipv4
  readonly prefix: PrefixLength
}

/** Devices that can only be connected or powered together: a breaker, a daisy chain. */
export interface PowerGroup {
  readonly id: string
  /** What it costs to put it on or to take it off, in seconds. */
  readonly seconds: number
  readonly live: boolean
  /** A running plant: never taken off. */
  readonly mustStayLive: boolean
  /** Its devices cannot be taken off the switch singly: no lead of one is pulled, no straight cable goes into one. */
  readonly chained: boolean
}

/** One device whose address is to be brought from where it is to where the plan wants it. */
export interface BringUpDevice {
  readonly id: string
  /** How people call it; its id where left out. */
  readonly name?: string
  readonly groupId: string
  /** `null` where it has no address until it is set. */
  readonly present: HostAddress | null
  readonly target: HostAddress
  /** What the laptop must have to set it: see the ways of setting of the kinds. */
  readonly access: 'over-ip' | 'local' | 'lease'
  readonly effect: 'at-once' | 'self-restart' | 'power-cycle'
  readonly handsOnSeconds: number
  readonly startUpSeconds: number
  /** Entered, and counts only after power off and on; left out where nothing waits. */
  readonly pending?: HostAddress
  /** Its own network lead is out of the switch. */
  readonly leadPulled?: boolean
  /** It was verified at its present address already. */
  readonly verified?: boolean
  /**
   * It is not in the order: nothing is done at it, nor at a group that only powers such. It stays in the plant all the
   * same: its group powers it, it holds its address, and what waits in it comes into force.
   */
  readonly frozen?: boolean
  /** Its way of setting only gives addresses that keep the first bits of this one; `null` where it gives any. */
  readonly reach: HostAddress | null
}

/** What an action costs, in seconds. The job can change them. */
export interface ActionSeconds {
  readonly laptopChange: number
  readonly cableMove: number
  /** The network lead of one device, pulled or plugged. */
  readonly leadMove: number
}

/** @source common practice, no source */
export const usualSeconds: ActionSeconds & { readonly power: number } = {
  laptopChange: 45,
  cableMove: 30,
  leadMove: 15,
  power: 20,
}

/** What is compared first: seconds, or the number of things done. */
export type Preference = 'seconds' | 'fewest-changes'

/** Everything that the order of bring-up is computed from. */
export interface BringUpJob {
  readonly laptop: {
    /** Subnets it is in at the start, at most `holds`. */
    readonly subnets: readonly HostAddress[]
    /** How many addresses its wired interface holds at once. */
    readonly holds: 1 | 2
  }
  readonly groups: readonly PowerGroup[]
  readonly devices: readonly BringUpDevice[]
  /** Addresses nobody may take: reserved ranges, gateways, ranges of a DHCP server. */
  readonly reserved: readonly AddressRange[]
  readonly seconds: ActionSeconds
  readonly preference: Preference
}

/** One action of a plan. Ids are those of the job; subnets are given by a host address of theirs with its mask. */
export type BringUpAction =
  | { readonly kind: 'laptop'; readonly into: HostAddress; readonly leaves: HostAddress | null }
  | { readonly kind: 'group-on' | 'group-off'; readonly groupId: string }
  | { readonly kind: 'cable'; readonly into: string | 'switch' }
  | { readonly kind: 'lead-out' | 'lead-in'; readonly deviceId: string }
  | {
      readonly kind: 'set'
      readonly deviceId: string
      readonly to: HostAddress
      readonly parking: boolean
      /** It counts only when its group has been taken off and put on again. */
      readonly pending: boolean
    }
  | { readonly kind: 'verify'; readonly deviceId: string }

/** What a plan costs, by kind of action. */
export interface BringUpCost {
  readonly seconds: number
  readonly laptopChanges: number
  readonly powerActions: number
  readonly settings: number
  readonly cableMoves: number
  readonly leadMoves: number
}
