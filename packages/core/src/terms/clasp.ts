import type { Refusal } from '../units'
import { termCatalogue } from './catalogue'
import type {
  Around,
  AtOdds,
  End,
  HandshakeTerms,
  TermContext,
  TermDefinition,
  TermEntry,
  TermFix,
  TermGroup,
  TermId,
} from './term'

const ENDS = ['controller', 'device'] as const

/** What one end says, as far as it can be read. */
export type EndReading =
  | { readonly state: 'blank' }
  | { readonly state: 'refused'; readonly entry: TermEntry; readonly refusal: Refusal }
  | {
      readonly state: 'read'
      readonly entry: TermEntry
      readonly shown: string
      /** Nobody said it: it follows from the line-up, the kind or a calculation. */
      readonly derived: boolean
    }

/** One line of the clasp. */
export interface ClaspRow {
  readonly id: TermId
  readonly name: string
  readonly group: TermGroup
  readonly ends: Readonly<Record<End, EndReading>>
  /** `unknown` while an end is blank, `refused` while an end cannot be read. */
  readonly state: 'equal' | 'fits' | 'at-odds' | 'unknown' | 'refused'
  readonly remark: string
  readonly fixes: readonly TermFix[]
}

export interface Clasp {
  /** Terms that are asked for, that somebody said, or that are at odds by what is known. */
  readonly rows: readonly ClaspRow[]
  /** Terms that there are between these ends and that nobody has said; with what is known of them. */
  readonly more: readonly ClaspRow[]
  readonly agreeing: number
  readonly atOdds: number
  readonly total: number
}

/** Holds both ends of a handshake against each other, term by term; a term that does not apply is no row. */
export function claspOf(context: TermContext): Clasp {
  const rows: ClaspRow[] = []
  const more: ClaspRow[] = []
  const filled = filledContext(context)
  for (const term of termCatalogue) {
    if (!(term.applies?.(filled) ?? true)) continue
    const isSaid = ENDS.some((end) => (context.terms[term.id]?.[end]?.text ?? '').trim() !== '')
    const isAsked = isSaid || (term.asked?.(filled) ?? false)
    if (!isAsked && !mayBeKnown(term, filled)) {
      more.push(blankRowOf(term))
      continue
    }
    const row = rowOf(term, filled, context.terms)
    if (isAsked || row.state === 'at-odds') rows.push(row)
    else more.push(row)
  }
  return {
    rows,
    more,
    agreeing: rows.filter((row) => row.state === 'equal' || row.state === 'fits').length,
    atOdds: rows.filter((row) => row.state === 'at-odds' || row.state === 'refused').length,
    total: rows.length,
  }
}

/** What is known without anybody having said it stands where nobody says anything. */
function filledContext(context: TermContext): TermContext {
  const { known } = context
  if (known === undefined) return context
  const terms: Partial<Record<TermId, Partial<Record<End, TermEntry>>>> = { ...context.terms }
  for (const [id, ends] of Object.entries(known) as [TermId, Partial<Record<End, TermEntry>>][]) {
    terms[id] = { ...ends, ...context.terms[id] }
  }
  return { ...context, terms }
}

const mayBeKnown = (term: TermDefinition<unknown>, { terms }: TermContext) =>
  term.derive !== undefined || terms[term.id] !== undefined

const blank: EndReading = { state: 'blank' }
const baseOf = ({ id, name, group }: TermDefinition<unknown>) => ({ id, name, group, remark: '', fixes: [] })
/** Rows that say nothing, made once: most terms of most handshakes are that. */
const blankRows = new Map<TermDefinition<unknown>, ClaspRow>()

function blankRowOf(term: TermDefinition<unknown>): ClaspRow {
  const known = blankRows.get(term)
  if (known) return known
  const row: ClaspRow = { ...baseOf(term), ends: { controller: blank, device: blank }, state: 'unknown' }
  blankRows.set(term, row)
  return row
}

function rowOf(term: TermDefinition<unknown>, context: TermContext, said: HandshakeTerms): ClaspRow {
  const read = (end: End) => {
    const entry = context.terms[term.id]?.[end] ?? term.derive?.(end, context)
    return readEnd(term, entry, { terms: context.terms, end }, said[term.id]?.[end] === undefined)
  }
  const controller = read('controller')
  const device = read('device')
  const base = { ...baseOf(term), ends: { controller: controller.reading, device: device.reading } }
  const refused = [controller.reading, device.reading].find((reading) => reading.state === 'refused')
  if (refused) return { ...base, state: 'refused', remark: refused.refusal.what }
  const alone = aloneAtOdds(term, { controller, device }, context)
  if (alone) return { ...base, state: 'at-odds', remark: alone.why, fixes: alone.fixes }
  const elsewhere = otherwiseElsewhere(term, { controller, device }, context)
  if (elsewhere) return { ...base, state: 'at-odds', remark: elsewhere, fixes: [] }
  if (controller.reading.state === 'blank' || device.reading.state === 'blank') return { ...base, state: 'unknown' }
  const agreement = term.agree(controller.value, device.value, context)
  switch (agreement.state) {
    case 'equal':
      return { ...base, state: 'equal' }
    case 'fits':
      return { ...base, state: 'fits', remark: agreement.remark }
    case 'at-odds':
      return { ...base, state: 'at-odds', remark: agreement.why, fixes: agreement.fixes }
  }
}

interface EndRead {
  readonly reading: EndReading
  readonly value?: unknown
}

/** An end that contradicts itself is at odds, even while the other one is blank. */
function aloneAtOdds(
  term: TermDefinition<unknown>,
  ends: Readonly<Record<End, EndRead>>,
  context: TermContext,
): AtOdds | undefined {
  for (const end of ENDS) {
    const { reading, value } = ends[end]
    const found = reading.state === 'read' ? term.alone?.(value, end, context) : undefined
    if (found) return found
  }
  return undefined
}

/** What a place of one end has instead of what that end says; `undefined` while every place that was looked at has it. */
function otherwiseElsewhere(
  term: TermDefinition<unknown>,
  ends: Readonly<Record<End, EndRead>>,
  context: TermContext,
): string | undefined {
  const found = ENDS.flatMap((end) => {
    const { reading } = ends[end]
    if (reading.state !== 'read') return []
    const around = { terms: context.terms, end }
    return (reading.entry.places ?? []).flatMap(({ where, text }) => {
      if (text.trim() === '' || text.trim() === reading.entry.text.trim()) return []
      const entry = { ...reading.entry, text }
      const parsed = term.parse(entry, around)
      const shown = parsed.ok ? term.format(parsed.value, entry, around) : text.trim()
      return shown === reading.shown ? [] : [`${where} at ${context.tags[end]} has ${shown}, not ${reading.shown}`]
    })
  })
  return found.length === 0 ? undefined : `${found.join('; ')}. Change it there.`
}

function readEnd(
  term: TermDefinition<unknown>,
  entry: TermEntry | undefined,
  around: Around,
  derived: boolean,
): EndRead {
  if (!entry || entry.text.trim() === '') return { reading: blank }
  const parsed = term.parse(entry, around)
  if (!parsed.ok) return { reading: { state: 'refused', entry, refusal: parsed.refusal } }
  return {
    reading: { state: 'read', entry, shown: term.format(parsed.value, entry, around), derived },
    value: parsed.value,
  }
}
