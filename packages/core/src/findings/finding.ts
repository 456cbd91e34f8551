/** How much a finding matters. Unsafe comes first everywhere. */
export type Severity = 'unsafe' | 'will-not-work' | 'worth-knowing'

/** Severities with the words and the rank used to sort; lower ranks come first. */
export const severities: Readonly<Record<Severity, { readonly words: string; readonly rank: number }>> = {
  unsafe: { words: 'Unsafe', rank: 0 },
  'will-not-work': { words: 'Will not work', rank: 1 },
  'worth-knowing': { words: 'Worth knowing', rank: 2 },
}

/** What a finding is about: a row that the interface can show it beside. */
export interface Subject {
  readonly kind: 'port' | 'device' | 'node' | 'line' | 'network' | 'laptop' | 'handshake'
  readonly id: string
}

/** One change of the plan: set a field of a row to a value. `null` clears it. */
export interface Edit {
  readonly subject: Subject
  readonly field: string
  readonly value: string | null
}

/** A way out, done by one action. Changes the plan only; nothing is sent to a device. */
export interface Fix {
  /** What the action says, for example `Move UPS-401 to 10.20.40.70`. */
  readonly label: string
  /** What else changes. */
  readonly sideEffect: string
  readonly edits: readonly Edit[]
}

/** What is said beside every way out that changes the plan and nothing else. */
export const PLAN_ONLY = 'Changes the plan only. Nothing is sent to a device.'

/** One thing that is not as it should be, with its reason and, where there is one, its way out. */
export interface Finding {
  /** Id of the rule that found it. */
  readonly rule: string
  readonly title: string
  readonly severity: Severity
  readonly subject: Subject
  /** Other rows that take part, for example the second device of a clash. */
  readonly others: readonly Subject[]
  readonly found: string
  readonly expected: string
  readonly why: string
  readonly fixes: readonly Fix[]
  readonly source: string
}
