import type { Finding, Fix, Severity, Subject } from './finding'

/**
 * A rule is data with a function. `check` answers whether the subject is as it should be; the other functions are
 * asked only when it is not.
 */
export interface Rule<T> {
  readonly id: string
  readonly title: string
  readonly severity: Severity
  /** One sentence for the docs page: what is looked for and why it matters, without a particular device. */
  readonly summary: string
  readonly appliesTo: (subject: T) => boolean
  readonly check: (subject: T) => boolean
  readonly found: (subject: T) => string
  readonly expected: (subject: T) => string
  readonly why: (subject: T) => string
  readonly others?: (subject: T) => readonly Subject[]
  readonly fixes: (subject: T) => readonly Fix[]
  /** Standard and clause, or "common practice, no source". */
  readonly source: string
}

/** Applies one rule to one subject; `undefined` when the rule does not apply or all is well. */
export function applyRule<T>(rule: Rule<T>, subject: T, about: Subject): Finding | undefined {
  if (!rule.appliesTo(subject) || rule.check(subject)) return undefined
  return {
    rule: rule.id,
    title: rule.title,
    severity: rule.severity,
    subject: about,
    others: rule.others?.(subject) ?? [],
    found: rule.found(subject),
    expected: rule.expected(subject),
    why: rule.why(subject),
    fixes: rule.fixes(subject),
    source: rule.source,
  }
}
