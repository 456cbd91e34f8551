import type { Offer } from '@calm/core/units'
import type { ValidationError } from 'joi'

/** Everything that goes wrong is told in this one shape. */
export interface Problem {
  /** One plain sentence. */
  readonly what: string
  /** The field or path, for example `devices[3].unitId`; empty where it is the request as a whole. */
  readonly where: string
  readonly expected: string
  readonly found: string
  readonly offers?: readonly Offer[]
}

/** The body of every answer that is not 2xx. */
export interface ProblemBody {
  readonly problems: readonly Problem[]
  /** With 409: the row as it stands now, to be held against what was sent. */
  readonly current?: unknown
}

/** A field as JSON, shortened so that a message stays readable. */
export function foundText(value: unknown): string {
  if (value === undefined) return 'nothing'
  const text = typeof value === 'string' ? value : (JSON.stringify(value) ?? String(value))
  return text.length > 80 ? `${text.slice(0, 77)}...` : text
}

/** Joi's findings as problems, each with its path. */
export function problemsOf(error: ValidationError): readonly Problem[] {
  return error.details.map((detail) => {
    const refusal = detail.context?.refusal
    const where = pathText(detail.path)
    const found = foundText(detail.context?.value)
    if (refusal)
      return { what: refusal.what, where, expected: refusal.expected, found: refusal.found, offers: refusal.offers }
    if (detail.type === 'object.unknown') {
      return {
        what: `There is no field "${detail.context?.key}" here.`,
        where,
        expected: 'only the documented fields',
        found: String(detail.context?.key),
      }
    }
    if (detail.type === 'any.required') {
      return { what: `The field "${detail.context?.key}" is missing.`, where, expected: 'a value', found: 'nothing' }
    }
    return {
      what: `${detail.message.replace(/"/g, '')}.`,
      where,
      expected: detail.message.replace(/^"[^"]*" /, ''),
      found,
    }
  })
}

/** @example pathText(['devices', 3, 'unitId']) // 'devices[3].unitId' */
export function pathText(path: readonly (string | number)[]): string {
  return path.reduce<string>(
    (text, part) => (typeof part === 'number' ? `${text}[${part}]` : text === '' ? part : `${text}.${part}`),
    '',
  )
}
