import type { Result } from '../units'
import type { Notation } from '../modbus'

/** The two ends of a handshake. */
export type End = 'controller' | 'device'

export type TermId =
  | 'address'
  | 'mask'
  | 'port'
  | 'unit-id'
  | 'line-settings'
  | 'function-code'
  | 'first-register'
  | 'count'
  | 'data-type'
  | 'word-order'
  | 'scale'

/** Every term by its id, in the order in which the clasp shows them. */
export const termIds: readonly TermId[] = [
  'address',
  'mask',
  'port',
  'unit-id',
  'line-settings',
  'function-code',
  'first-register',
  'count',
  'data-type',
  'word-order',
  'scale',
]

/** What stands at one end, as it was typed or read off. */
export interface TermEntry {
  readonly text: string
  /** For registers: how the document at this end counts. */
  readonly notation?: Notation | undefined
  /** Where it was read, for example `its manual, p. 41`. */
  readonly origin: string
}

/** All terms of one handshake. An end that says nothing yet is left out. */
export type HandshakeTerms = Readonly<Partial<Record<TermId, Readonly<Partial<Record<End, TermEntry>>>>>>

/** What the agreement of a term may depend on besides its two values. */
export interface TermContext {
  /** How the ends are called. */
  readonly tags: Readonly<Record<End, string>>
  readonly terms: HandshakeTerms
  /** The controller's own address, for judging masks. */
  readonly controllerAddress?: string | undefined
  /** The serial line that the device sits on; left out where it sits on none. */
  readonly line?: { readonly name: string } | undefined
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

/** A term as data with functions. `T` is what its text means. */
export interface TermDefinition<T> {
  readonly id: TermId
  readonly name: string
  readonly group: 'reach' | 'request' | 'words'
  /** Said once on hover. */
  readonly explain: string
  readonly example: string
  /** Values to choose from, where the term is a choice. */
  readonly choices?: readonly { readonly text: string; readonly label: string }[]
  readonly parse: (entry: TermEntry, around?: Around) => Result<T>
  readonly format: (value: T, entry: TermEntry, around?: Around) => string
  /** Whether there is such a term between these two ends; left out where there always is. */
  readonly applies?: (context: TermContext) => boolean
  /** What is wrong with one end by itself, whatever the other one says. */
  readonly alone?: (value: T, end: End, context: TermContext) => AtOdds | undefined
  readonly agree: (controller: T, device: T, context: TermContext) => Agreement
  readonly source: string
}
