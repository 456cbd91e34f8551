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

/** Field names as they stand in a sentence, where the name alone does not read well. */
const names: Readonly<Record<string, string>> = {
  tcpPort: 'TCP port',
  unitId: 'Unit id',
  vlan: 'VLAN',
  cidr: 'Network',
  dhcp: 'DHCP range',
  asFound: 'As found',
  networkId: 'Network',
  behindId: 'Device before it',
}

function nameOf(path: readonly (string | number)[]): string {
  const last = path.findLast((part) => typeof part === 'string') ?? 'request'
  const plain = String(last)
    .replace(/([a-z])([A-Z])/g, '$1 $2')
    .toLowerCase()
  return names[last] ?? plain.charAt(0).toUpperCase() + plain.slice(1)
}

type Words = (name: string, limit: string) => { readonly what: string; readonly expected: string }

/** What the checks of the schemas mean, in plain words. What is not listed keeps the schema's own message. */
const words: Readonly<Record<string, Words>> = {
  'string.empty': (name) => ({ what: `${name} is blank.`, expected: 'a text' }),
  'string.base': (name) => ({ what: `${name} is not a text.`, expected: 'a text' }),
  'string.min': (name, limit) => ({ what: `${name} is too short.`, expected: `at least ${limit} characters` }),
  'string.max': (name, limit) => ({ what: `${name} is too long.`, expected: `at most ${limit} characters` }),
  'string.pattern.name': (name, limit) => ({
    what: limit.startsWith('a UUID') ? `${name} is not an id.` : `${name} has the wrong form.`,
    expected: limit,
  }),
  'string.isoDate': (name) => ({ what: `${name} is not a date.`, expected: 'a date and time by ISO 8601' }),
  'number.base': (name) => ({ what: `${name} is not a number.`, expected: 'a number' }),
  'number.integer': (name) => ({ what: `${name} is not a whole number.`, expected: 'a whole number' }),
  'number.min': (name, limit) => ({ what: `${name} is below ${limit}.`, expected: `at least ${limit}` }),
  'number.max': (name, limit) => ({ what: `${name} is above ${limit}.`, expected: `at most ${limit}` }),
  'any.only': (name, limit) => ({ what: `${name} is none of the known ones.`, expected: limit }),
  'object.min': () => ({ what: 'Nothing is to be changed.', expected: 'at least one field' }),
}

/** Messages that a schema words itself stay as they are. */
const isOwnMessage = (detail: ValidationError['details'][number]) => !detail.message.startsWith('"')

/** Joi's findings as problems, each with its path. */
export function problemsOf(error: ValidationError): readonly Problem[] {
  return error.details.map((detail) => {
    const refusal = detail.context?.refusal
    const where = pathText(detail.path)
    const found = foundText(detail.context?.value)
    if (refusal) {
      return { what: refusal.what, where, expected: refusal.expected, found: refusal.found, offers: refusal.offers }
    }
    if (detail.type === 'object.unknown') {
      const key = String(detail.context?.key)
      return { what: `There is no field "${key}" here.`, where, expected: 'only the documented fields', found: key }
    }
    if (detail.type === 'any.required') {
      return { what: `The field "${detail.context?.key}" is missing.`, where, expected: 'a value', found: 'nothing' }
    }
    const limit = String(detail.context?.limit ?? detail.context?.name ?? detail.context?.valids?.join(', ') ?? '')
    const plain = isOwnMessage(detail) ? undefined : words[detail.type]?.(nameOf(detail.path), limit)
    const message = `${detail.message.replace(/"/g, '')}.`
    return { what: plain?.what ?? message, where, expected: plain?.expected ?? message, found }
  })
}

/** @example pathText(['devices', 3, 'unitId']) // 'devices[3].unitId' */
export function pathText(path: readonly (string | number)[]): string {
  return path.reduce<string>(
    (text, part) => (typeof part === 'number' ? `${text}[${part}]` : text === '' ? part : `${text}.${part}`),
    '',
  )
}
