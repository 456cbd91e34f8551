import type { Result } from '../../units'

/** The tables of a job whose rows people edit. */
export type RowTable =
  | 'job'
  | 'network'
  | 'line'
  | 'device'
  | 'port'
  | 'node'
  | 'kind'
  | 'request'
  | 'acceptance'
  | 'standing'
  | 'handshake'
  | 'term'
  | 'point'

/** Contents with a form of their own; the contract knows each by its name. */
export type Shape =
  | 'address-rules'
  | 'name-places'
  | 'mirrors'
  | 'image'
  | 'memory'
  | 'times'
  | 'message'
  | 'tables-taken'
  | 'kind-facts'
  | 'kind-id'
  | 'device-ids'
  | 'served'
  | 'source'
  | 'reference'
  | 'tolerance'

/** What may stand in a field. Requests and files are checked by it, and the database stores by it. */
export type FieldType =
  | {
      readonly is: 'text'
      readonly least: number
      readonly most: number
      /** One line, or several. */
      readonly lines: 'one' | 'many'
      /** A name by which people call the row. */
      readonly tag: boolean
    }
  /** A text that a function of ours can read; it is kept as it was typed, or as it was read. */
  | {
      readonly is: 'read'
      readonly read: (text: string) => Result<unknown>
      readonly most: number
      readonly mayBeBlank: boolean
      readonly keeps: 'typed' | 'read'
    }
  | {
      readonly is: 'whole'
      readonly least: number
      readonly most: number
      /** Numbers in between that are nobody's, first and last. */
      readonly except?: readonly [number, number]
      /** What to say of a number that cannot be, with `{value}` for it. */
      readonly otherwise?: { readonly except: string; readonly above: string }
    }
  | { readonly is: 'number'; readonly least: number | undefined }
  | { readonly is: 'yes-no' }
  | { readonly is: 'one-of'; readonly values: readonly string[] }
  | { readonly is: 'row'; readonly of: RowTable | 'any' }
  | { readonly is: 'day' }
  | { readonly is: 'shape'; readonly shape: Shape }

/**
 * One field of a row, said once: schema, column of the database, job file, table, heads of a spreadsheet, words of the
 * log and the record follow from it. `T` is what stands in it.
 */
export interface Field<T> {
  readonly type: FieldType
  /** May stand open: `null`. */
  readonly open: boolean
  /** How log, tables and messages call it. */
  readonly name: string
  /** What a row has of which nobody said it; left out where it has to be said. */
  readonly blank?: T
  /** The version of the job file that has it first; older files leave it blank. */
  readonly since: number
  /** Unit of a number. */
  readonly unit?: string
  /** Heads under which a spreadsheet has it, in small letters without spaces and marks. */
  readonly heads?: readonly string[]
  /** Set in the typed face: addresses, numbers, codes. */
  readonly typed?: boolean
  /** Stands in the as-left record. */
  readonly inRecord?: boolean
}

export type Fields = Readonly<Record<string, Field<unknown>>>

/** What stands in the fields of a row. */
export type ValuesOf<F> = { readonly [K in keyof F]: F[K] extends Field<infer T> ? T : never }

type More<T> = Partial<Omit<Field<T>, 'type' | 'open' | 'name'>>
const FIRST = { since: 1 }

/** One line of text. */
export const text = (
  name: string,
  { most = 120, least = 0, ...more }: More<string> & { most?: number; least?: number } = {},
): Field<string> => ({
  ...FIRST,
  type: { is: 'text', least, most, lines: 'one', tag: false },
  open: false,
  name,
  ...more,
})

/** Text of several lines. */
export const longText = (name: string, most: number, more: More<string> = {}): Field<string> => ({
  ...FIRST,
  type: { is: 'text', least: 0, most, lines: 'many', tag: false },
  open: false,
  name,
  ...more,
})

/** The name by which people call the row: no blanks at its ends. */
export const tag = (name: string, most = 40, more: More<string> = {}): Field<string> => ({
  ...FIRST,
  type: { is: 'text', least: 1, most, lines: 'one', tag: true },
  open: false,
  name,
  ...more,
})

/** A text that a function can read. */
export const readBy = (
  name: string,
  read: (text: string) => Result<unknown>,
  {
    most = 200,
    mayBeBlank = false,
    keeps = 'typed',
    ...more
  }: More<string> & { most?: number; mayBeBlank?: boolean; keeps?: 'typed' | 'read' } = {},
): Field<string> => ({
  ...FIRST,
  type: { is: 'read', read, most, mayBeBlank, keeps },
  open: false,
  name,
  ...more,
})

export const whole = (
  name: string,
  least: number,
  most: number,
  {
    except,
    otherwise,
    ...more
  }: More<number> & {
    except?: readonly [number, number]
    otherwise?: { readonly except: string; readonly above: string }
  } = {},
): Field<number> => ({
  ...FIRST,
  type: { is: 'whole', least, most, ...(except && { except }), ...(otherwise && { otherwise }) },
  open: false,
  name,
  ...more,
})

export const number = (name: string, least?: number, more: More<number> = {}): Field<number> => ({
  ...FIRST,
  type: { is: 'number', least },
  open: false,
  name,
  ...more,
})

export const yesNo = (name: string, more: More<boolean> = {}): Field<boolean> => ({
  ...FIRST,
  type: { is: 'yes-no' },
  open: false,
  name,
  ...more,
})

/** One of a record's keys. */
export const oneOf = <K extends string>(
  name: string,
  record: Readonly<Record<K, unknown>> | readonly K[],
  more: More<K> = {},
): Field<K> => ({
  ...FIRST,
  type: { is: 'one-of', values: Array.isArray(record) ? record : Object.keys(record) },
  open: false,
  name,
  ...more,
})

/** The id of another row of the job. */
export const link = (name: string, of: RowTable | 'any', more: More<string> = {}): Field<string> => ({
  ...FIRST,
  type: { is: 'row', of },
  open: false,
  name,
  ...more,
})

/** A day as `2026-11-25`. */
export const day = (name: string, more: More<string> = {}): Field<string> => ({
  ...FIRST,
  type: { is: 'day' },
  open: false,
  name,
  ...more,
})

/** A content with a form of its own. */
export const shape = <T>(name: string, of: Shape, more: More<T> = {}): Field<T> => ({
  ...FIRST,
  type: { is: 'shape', shape: of },
  open: false,
  name,
  ...more,
})

/** The same field, which may stand open. Left out of an older file or of a new row, it does, where `blank` is said. */
export const orOpen = <T>(field: Field<T>, more: { readonly blank?: null } = {}): Field<T | null> => ({
  ...(field as Field<T | null>),
  open: true,
  ...more,
})

/** What a new row has of which nobody said anything: fields that must be said are left out. */
export function blanksOf<F extends Fields>(fields: F): Partial<ValuesOf<F>> {
  return Object.fromEntries(
    Object.entries(fields).flatMap(([name, field]) => ('blank' in field ? [[name, field.blank]] : [])),
  ) as Partial<ValuesOf<F>>
}
