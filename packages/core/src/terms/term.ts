import type { DeviceRole } from '../kind'
import type { Result } from '../units'
import type { Notation } from '../modbus'
import type { Exchange } from './exchanges'
import type { TermId } from './termIds'

export type { TermId } from './termIds'

/** The two ends of a handshake. */
export type End = 'controller' | 'device'

/** What stands at one end, as it was typed or read off. */
export interface TermEntry {
  readonly text: string
  /** For registers: how the document at this end counts. */
  readonly notation?: Notation | undefined
  /** Where it was read, for example `its manual, p. 41`. */
  readonly origin: string
  /** Where else it must stand at this end, with what stands there; blank where nobody has looked yet. */
  readonly places?: readonly TermPlace[] | undefined
}

/** One more place of a term: the project, the download target, a second screen. */
export interface TermPlace {
  readonly where: string
  readonly text: string
}

/** All terms of one handshake. An end that says nothing yet is left out. */
export type HandshakeTerms = Readonly<Partial<Record<TermId, Readonly<Partial<Record<End, TermEntry>>>>>>

/** The serial line or bus that a device sits on, as far as terms are judged by it. */
export interface TermLine {
  readonly name: string
  /** Whether characters with a bit rate and a parity go over it. */
  readonly isSerial: boolean
  /** Id of the family of nodes. */
  readonly family: string
  /** How many devices sit on it, the one that asks included. */
  readonly stations: number
  /** What the other handshakes of this line say of a term, at either end. */
  readonly others: (id: TermId) => readonly { readonly tag: string; readonly text: string }[]
}

/** What the agreement of a term may depend on besides its two values. */
export interface TermContext {
  /** How the ends are called. */
  readonly tags: Readonly<Record<End, string>>
  readonly terms: HandshakeTerms
  /** How the two ends speak; left out where nobody said it: Modbus. */
  readonly exchange?: Exchange | undefined
  /** What each end is there for. */
  readonly roles?: Readonly<Partial<Record<End, DeviceRole | undefined>>> | undefined
  /** The controller's own address, for judging masks. */
  readonly controllerAddress?: string | undefined
  /** The line that the device sits on; left out where it sits on none. */
  readonly line?: TermLine | undefined
  /** What carries it: IPv4, or the controller's own line; left out where nobody knows: IPv4. */
  readonly carrier?: 'ip' | 'line' | undefined
  /** Whether something between the two ends passes on what is asked. */
  readonly passedOn?: boolean | undefined
  /** What is known without anybody having said it: from the line-up, from the kind. It counts until somebody says it. */
  readonly known?: HandshakeTerms | undefined
  /** What the description file of the device allows; left out where there is none. */
  readonly limits?: { readonly rates: readonly number[]; readonly nodes?: readonly [number, number] } | undefined
  /** A value to show consequences with, for example the reference. */
  readonly sample?: number | undefined
}

/** Where an entry stands, for terms whose meaning depends on others of the same end. */
export interface Around {
  readonly terms: HandshakeTerms
  readonly end: End
}

/** One way to make both ends agree. */
export interface TermFix {
  readonly end: End
  readonly text: string
  readonly notation?: Notation | undefined
  readonly label: string
  readonly sideEffect: string
}

export type Agreement =
  | { readonly state: 'equal' }
  /** Not the same text, yet the same thing. */
  | { readonly state: 'fits'; readonly remark: string }
  | AtOdds

export interface AtOdds {
  readonly state: 'at-odds'
  readonly why: string
  readonly fixes: readonly TermFix[]
}

/** What a term is about; the clasp shows them in this order. */
export type TermGroup = 'reach' | 'line' | 'request' | 'words' | 'versions' | 'names' | 'charge'

/** A term as data with functions. `T` is what its text means. */
export interface TermDefinition<T> {
  readonly id: TermId
  readonly name: string
  readonly group: TermGroup
  /** Said once on hover. */
  readonly explain: string
  readonly example: string
  /** What must hold between the two ends, in words. */
  readonly relation: string
  /** What comes of it where it does not hold. */
  readonly why: string
  /** What it costs: nothing passes, something is wrong or lost, or it is good to know. */
  readonly severity: 'never' | 'wrong' | 'worth-knowing'
  /** Values to choose from, where the term is a choice. */
  readonly choices?: readonly { readonly text: string; readonly label: string }[]
  readonly parse: (entry: TermEntry, around?: Around) => Result<T>
  readonly format: (value: T, entry: TermEntry, around?: Around) => string
  /** Whether there is such a term between these two ends; left out where there always is. */
  readonly applies?: (context: TermContext) => boolean
  /** Whether a handshake is not agreed without it; else it is a row only once somebody says it, or where it is at odds. */
  readonly asked?: (context: TermContext) => boolean
  /** What an end has by calculation or by what is known of it, where nobody says it. */
  readonly derive?: (end: End, context: TermContext) => TermEntry | undefined
  /** What is wrong with one end by itself, whatever the other one says. */
  readonly alone?: (value: T, end: End, context: TermContext) => AtOdds | undefined
  readonly agree: (controller: T, device: T, context: TermContext) => Agreement
  readonly source: string
}
