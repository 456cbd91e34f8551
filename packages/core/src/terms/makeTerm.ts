import { compareVersions, differences, hangsOnUnfinished, versionFits, type VersionRelation } from '../identity'
import { ok, refusal, type Result } from '../units'
import { apart, equal, fits, type Told } from './relations'
import { quantityText, readChoice, readQuantity, readText, type QuantityField } from './readers'
import type { Agreement, AtOdds, End, TermContext, TermDefinition } from './term'

type Agree<T> = (controller: T, device: T, context: TermContext) => Agreement | undefined
type Alone<T> = (value: T, end: End, context: TermContext) => AtOdds | undefined

const rest = (term: Told, relation: string) => ({ relation, severity: 'never' as const, example: '', ...term })

/** A term that reads its values in a way of its own. */
export const customTerm = <T>(
  term: Told &
    Pick<TermDefinition<T>, 'parse' | 'format' | 'agree' | 'example' | 'relation'> &
    Partial<Pick<TermDefinition<T>, 'alone'>>,
): TermDefinition<T> => ({ severity: 'never', ...term })

/** A term whose values are words to choose from. Without a relation of its own both ends say the same. */
export function choiceTerm<K extends string>(
  term: Told & {
    readonly words: Readonly<Record<K, string>>
    readonly also?: Readonly<Record<string, NoInfer<K>>>
    readonly agree?: Agree<NoInfer<K>>
    readonly alone?: Alone<NoInfer<K>>
  },
): TermDefinition<K> {
  const { words, also, agree, alone, ...told } = term
  const ids = Object.keys(words) as K[]
  return {
    ...rest(told, 'equal'),
    example: words[ids[0] as K],
    choices: ids.map((id) => ({ text: id, label: words[id] })),
    parse: (entry) => readChoice(entry.text, words, also),
    format: (value) => words[value],
    ...(alone && { alone }),
    agree: (controller, device, context) =>
      agree?.(controller, device, context) ??
      (controller === device ? equal : apart(told, context, { controller: words[controller], device: words[device] })),
  }
}

/** A term that is one quantity at both ends. Without a relation of its own both ends say the same. */
export function quantityTerm(
  term: Told & { readonly field: QuantityField; readonly agree?: Agree<number>; readonly alone?: Alone<number> },
): TermDefinition<number> {
  const { field, agree, alone, ...told } = term
  const shown = (value: number) => quantityText(value, field.unit)
  return {
    ...rest(told, 'equal'),
    example: told.example ?? shown(field.least),
    parse: (entry) => readQuantity(entry.text, field),
    format: shown,
    ...(alone && { alone }),
    agree: (controller, device, context) =>
      agree?.(controller, device, context) ??
      (controller === device ? equal : apart(told, context, { controller: shown(controller), device: shown(device) })),
  }
}

/** The relation of a quantity in which one end must have at least as much as the other. */
export const atLeast =
  (larger: 'controller' | 'device', term: Told, unit: string): Agree<number> =>
  (controller, device, context) => {
    const holds = larger === 'controller' ? controller >= device : device >= controller
    if (!holds)
      return apart(term, context, { controller: quantityText(controller, unit), device: quantityText(device, unit) })
    return controller === device ? equal : fits(`${context.tags[larger]} has at least as much`)
  }

/** Two names in words: where the first letters differ, and whether they look alike. */
export function namesApart(controller: string, device: string): string {
  const found = differences(controller, device)
  const [first] = found
  if (!first) return ''
  const count = `${found.length} sign${found.length === 1 ? '' : 's'} differ${found.length === 1 ? 's' : ''}`
  const at = `the first at place ${first.at + 1}: "${first.left}" here, "${first.right}" there`
  return `${count}, ${at}.${found.some(({ looksAlike }) => looksAlike) ? ' They look alike.' : ''}`
}

/** A term that must be equal letter for letter. */
export function lettersTerm(
  term: Told & { readonly read?: (text: string) => Result<string>; readonly alone?: Alone<string> },
): TermDefinition<string> {
  const { read, alone, ...told } = term
  return {
    ...rest(told, 'equal letter for letter'),
    parse: (entry) => read?.(entry.text) ?? readText(entry.text, told.name),
    format: (value) => value,
    ...(alone && { alone }),
    agree: (controller, device, context) =>
      controller === device
        ? equal
        : apart(told, context, { controller, device }, `${namesApart(controller, device)} ${told.why}`),
  }
}

/** A version, and at the controller end how the one across must stand to it. */
export interface AskedVersion {
  readonly relation: VersionRelation
  readonly version: string
}

const RELATION = /^(>=|<=|=|at least|not above|at most|equal to|equal|any)?\s*v?\s*(.*)$/i
const relations: Readonly<Record<string, VersionRelation>> = {
  '>=': 'at-least',
  'at least': 'at-least',
  '<=': 'not-above',
  'not above': 'not-above',
  'at most': 'not-above',
  '=': 'equal',
  equal: 'equal',
  'equal to': 'equal',
  any: 'any',
}
const relationWords: Readonly<Record<VersionRelation, string>> = {
  equal: '',
  'at-least': 'at least ',
  'not-above': 'not above ',
  any: 'any',
}

/** Reads `at least 2.10`, `<= 4`, `any`, or a bare version, which then stands in the relation that is usual. */
export function readAskedVersion(text: string, usual: VersionRelation): Result<AskedVersion> {
  const typed = text.trim()
  const [, word, version = ''] = RELATION.exec(typed) ?? []
  const relation = word === undefined ? usual : (relations[word.toLowerCase()] ?? usual)
  if (relation === 'any') return ok({ relation, version: '' })
  if (!/^\d/.test(version) || /[^\w.+ -]/.test(version))
    return refusal(
      'term.version',
      `"${typed}" is no version.`,
      typed,
      'for example 2.10, at least 2.10, not above 4, any',
    )
  return ok({ relation, version })
}

/** A version that the other end must have, be above or not be above. */
export function versionTerm(term: Told & { readonly usual: VersionRelation }): TermDefinition<AskedVersion> {
  const { usual, ...told } = term
  const shown = ({ relation, version }: AskedVersion) => `${relationWords[relation]}${version}`
  return {
    ...rest(told, usual === 'equal' ? 'equal' : relationWords[usual].trim()),
    severity: 'wrong',
    example: usual === 'equal' ? '3.1' : `${relationWords[usual]}2.10`,
    parse: (entry, around) => readAskedVersion(entry.text, around?.end === 'device' ? 'equal' : usual),
    format: shown,
    agree: (asked, has, context) => {
      if (asked.relation === 'any') return fits('Does not matter')
      const doubt = hangsOnUnfinished(has.version, asked.version)
        ? ' This hangs on a part that is not finished yet, such as -rc; makers order these differently.'
        : ''
      if (!versionFits(has.version, asked.relation, asked.version))
        return apart(
          told,
          context,
          { controller: shown(asked), device: has.version },
          `${context.tags.device} has ${has.version}, asked for is ${shown(asked)}.${doubt} ${told.why}`,
        )
      return doubt === '' && compareVersions(has.version, asked.version) === 0 ? equal : fits(`As asked for.${doubt}`)
    },
  }
}
