import type { Tolerance, ValueFormat } from '../values'

/** Words of a person, or a sentence of an older program. */
interface TextFact {
  readonly kind: 'text'
  readonly text: string
}

/** Which point a reading is about, as it was then. */
export interface PointFact {
  readonly kind: 'point'
  readonly tag: string
  readonly quantity: string
  readonly unit: string
  readonly decimals: number
}

/** What one hop showed: the raw words, the value, and how it was come by. */
export interface ReadingFact {
  readonly kind: 'reading'
  /** The device, controller or screen. */
  readonly place: string
  readonly source: 'live' | 'held' | 'typed'
  readonly value: number | null
  readonly words: readonly number[] | null
  /** When it was seen; `null` where nothing was. */
  readonly at: number | null
  /** Where the request went, and its bytes; blank where it was typed. */
  readonly asked: string
  readonly request: string
  readonly answer: string
  readonly milliseconds: number | null
  /** How the words were read; left out where there are none. */
  readonly format?: ValueFormat | undefined
  readonly scale?: number | undefined
  /** Added after the scale; none where it is left out. */
  readonly offset?: number | undefined
}

/** What an independent instrument or display showed, and how far off a reading may be. */
interface ReferenceFact {
  readonly kind: 'reference'
  readonly value: number
  readonly origin: string
  readonly tolerance: Tolerance
}

/** One step on the way to a device. */
interface StepFact {
  readonly kind: 'step'
  readonly step: string
  readonly ok: boolean
  readonly what: string
}

/** Where a device was asked. */
interface AskedFact {
  readonly kind: 'asked'
  readonly at: string
  readonly answered: boolean
}

/** What a device says of itself. */
interface IdentityFact {
  readonly kind: 'identity'
  readonly name: string
  readonly text: string
}

/** How one term stood at both ends. */
interface TermFact {
  readonly kind: 'term'
  readonly term: string
  readonly controller: string
  readonly device: string
  readonly state: string
}

/** A lamp or display, and how it was seen. */
interface LampFact {
  readonly kind: 'lamp'
  readonly lamp: string
  readonly pattern: string
}

/** A file, by its content. */
interface FileFact {
  readonly kind: 'file'
  readonly name: string
  readonly bytes: number
  /** In small hexadecimal letters. */
  readonly sha256: string
}

/** Something measured or read that is no point of a handshake. */
interface QuantityFact {
  readonly kind: 'quantity'
  readonly name: string
  readonly value: number
  readonly unit: string
  readonly instrument: string
}

/** One fact of what was seen. Sentences are made of it where it is shown, so that it can be compared and judged again. */
export type EvidenceFact =
  | TextFact
  | PointFact
  | ReadingFact
  | ReferenceFact
  | StepFact
  | AskedFact
  | IdentityFact
  | TermFact
  | LampFact
  | FileFact
  | QuantityFact

export type FactKind = EvidenceFact['kind']

/** The facts of one kind, in their order. */
export const factsOf = <K extends FactKind>(
  facts: readonly EvidenceFact[],
  kind: K,
): readonly Extract<EvidenceFact, { kind: K }>[] =>
  facts.filter((fact): fact is Extract<EvidenceFact, { kind: K }> => fact.kind === kind)

export const textFact = (text: string): TextFact => ({ kind: 'text', text })
