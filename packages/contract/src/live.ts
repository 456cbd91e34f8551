import type { Mode, TermStanding } from '@calm/core/job'
import type { TermId } from '@calm/core/terms'

/** The hops that can be asked live. */
export type LiveHop = 'device' | 'controller'

/** One reading of one hop. A wrong, late or foreign answer has a `silence`, never a value. */
export interface LiveReading {
  /** Rises with every reading of this server; evidence names readings by it. */
  readonly sequence: number
  readonly pointId: string
  readonly hop: LiveHop
  readonly mode: Mode
  readonly at: number
  /** Where the request went: the planned address, and on the bench the loopback address it is served on. */
  readonly asked: string
  readonly servedAt: string
  readonly requestHex: string
  readonly responseHex: string
  readonly roundTripMs: number | null
  readonly words: readonly number[] | null
  readonly value: number | null
  readonly text: string
  /** Why there is no value, in one sentence; empty where there is one. */
  readonly silence: string
  /** What to look at next; empty where there is nothing to say. */
  readonly hint: string
  /** Why the value is no proof yet though it is there, in one sentence; empty on a line that was quiet. */
  readonly unsure: string
}

/** The registers around a point as its device gave them once, and what its controller showed then. */
export interface LookAround {
  readonly at: number
  readonly mode: Mode
  /** Where the request went: the planned address, and on the bench the loopback address it is served on. */
  readonly asked: string
  readonly servedAt: string
  /** Address in the frame of the first word. */
  readonly first: number
  /** `null` where the device has no such register. */
  readonly words: readonly (number | null)[]
  /** Requests that it took: one, or one for each register where the device answers only for whole places. */
  readonly requests: number
  /** Why there are no words, in one sentence; empty where there are. */
  readonly silence: string
  readonly controller: { readonly value: number | null; readonly silence: string }
}

/** What one setting of a device stands at. */
export interface SettingSeen {
  readonly termId: TermId
  readonly standing: TermStanding
  /** Blank where it could not be read. */
  readonly text: string
  /** Why there is no text, in one sentence; empty where there is one. */
  readonly silence: string
  /** Where it was seen. */
  readonly origin: string
}

/** What the settings of a device stand at, as it shows them itself. */
export interface SettingsSeen {
  readonly at: number
  readonly mode: Mode
  readonly settings: readonly SettingSeen[]
}

/** How often each hop is asked. */
export const LIVE_INTERVAL_MS = 500

/** What a device says of itself, and how it was reached. */
export interface ReachReport {
  readonly reached: boolean
  readonly asked: string
  readonly servedAt: string
  readonly mode: Mode
  readonly at: number
  readonly steps: readonly { readonly step: string; readonly ok: boolean; readonly what: string }[]
  readonly identity: readonly { readonly name: string; readonly text: string }[]
}

/** Switches of a stand-in. */
export interface Faults {
  readonly silent: boolean
  readonly slow: boolean
  readonly wrongUnit: boolean
  readonly exception2: boolean
  readonly wordsSwapped: boolean
  readonly mapShifted: boolean
}

export const faultNames: Readonly<Record<keyof Faults, { readonly name: string; readonly explain: string }>> = {
  silent: { name: 'Silent', explain: 'Takes the connection, never answers.' },
  slow: { name: 'Slow', explain: 'Answers after 2.5 s, later than most wait.' },
  wrongUnit: { name: 'Wrong unit', explain: 'Answers as another unit than the one asked.' },
  exception2: { name: 'Exception 2', explain: 'Says that it has no such register.' },
  wordsSwapped: { name: 'Words swapped', explain: 'Sends the low word of every 32-bit value first.' },
  mapShifted: { name: 'Map shifted by one', explain: 'Every register sits one higher than its manual says.' },
}

export interface StandInView {
  readonly tag: string
  readonly what: string
  readonly plannedAddress: string
  readonly servedAt: string
  readonly faults: Faults
  readonly requestCount: number
  readonly state: string
}

/** The front of a stand-in: what hands and eyes have to do with. Lamps are told in words, as at a real panel. */
export interface FrontView {
  readonly tag: string
  readonly what: string
  /** The breaker that gives it power. */
  readonly breaker: string
  readonly power: boolean
  readonly plugged: boolean
  /** The address that it has in force; `null` where it has none. */
  readonly address: string | null
  /** Seconds until it has started; 0 when it runs or is off. */
  readonly startsIn: number
  readonly lamps: readonly { readonly lamp: string; readonly words: string }[]
  readonly display: string | null
  readonly keys: readonly { readonly id: string; readonly label: string }[]
  readonly buttons: readonly { readonly id: string; readonly label: string; readonly holdSeconds: number }[]
  readonly switches: readonly {
    readonly id: string
    readonly label: string
    /** The device whose menu it stands in, where a front shows those of several. */
    readonly of?: string
    readonly options: readonly string[]
    readonly value: string
  }[]
  /** What its label says. */
  readonly label: readonly string[]
  /** Where its page is served on the bench; `null` while it has none. */
  readonly page: string | null
  /** Where its serial socket is reached on the bench, as host:port; `null` where it has none. */
  readonly console: string | null
}

/** What hands do at a front. */
export type FrontAct =
  | { readonly act: 'power' | 'plug'; readonly on: boolean }
  | { readonly act: 'press'; readonly id: string; readonly seconds: number }
  | { readonly act: 'turn'; readonly id: string; readonly value: string }

/** The laptop of the bench: its wired adapter, and where its cable is. */
export interface BenchLaptopView {
  readonly addresses: readonly { readonly address: string; readonly prefix: number }[]
  /** `switch`, or the tag of the stand-in whose port the cable is straight in. */
  readonly cable: string
  /** How many times faster than real the stand-ins start. */
  readonly speed: number
}

export interface LaptopInterface {
  readonly name: string
  readonly address: string
  readonly prefix: number
  readonly loopback: boolean
  readonly hardwareAddress: string
}

/** Who is at the page, and what they may do. */
export interface Me {
  readonly name: string
  readonly role: 'viewer' | 'technician' | 'lead'
  /** Whether a passcode is asked for at all. */
  readonly guarded: boolean
}
