import type { Refusal } from '../units'
import { termCatalogue } from './catalogue'
import type { Around, AtOdds, End, TermContext, TermDefinition, TermEntry, TermFix, TermId } from './term'

/** What one end says, as far as it can be read. */
export type EndReading =
  | { readonly state: 'blank' }
  | { readonly state: 'refused'; readonly entry: TermEntry; readonly refusal: Refusal }
  | { readonly state: 'read'; readonly entry: TermEntry; readonly shown: string }

/** One line of the clasp. */
export interface ClaspRow {
  readonly id: TermId
  readonly name: string
  readonly group: TermDefinition<unknown>['group']
  readonly ends: Readonly<Record<End, EndReading>>
  /** `unknown` while an end is blank, `refused` while an end cannot be read. */
  readonly state: 'equal' | 'fits' | 'at-odds' | 'unknown' | 'refused'
  readonly remark: string
  readonly fixes: readonly TermFix[]
}

export interface Clasp {
  readonly rows: readonly ClaspRow[]
  readonly agreeing: number
  readonly atOdds: number
  readonly total: number
}

/** Holds both ends of a handshake against each other, term by term; a term that does not apply is no row. */
export function claspOf(context: TermContext): Clasp {
  const rows = termCatalogue.filter((term) => term.applies?.(context) ?? true).map((term) => rowOf(term, context))
  return {
    rows,
    agreeing: rows.filter((row) => row.state === 'equal' || row.state === 'fits').length,
    atOdds: rows.filter((row) => row.state === 'at-odds' || row.state === 'refused').length,
    total: rows.length,
  }
}

function rowOf(term: TermDefinition<unknown>, context: TermContext): ClaspRow {
  const entries = context.terms[term.id]
  const controller = readEnd(term, entries?.controller, { terms: context.terms, end: 'controller' })
  const device = readEnd(term, entries?.device, { terms: context.terms, end: 'device' })
  const base = {
    id: term.id,
    name: term.name,
    group: term.group,
    ends: { controller: controller.reading, device: device.reading },
    remark: '',
    fixes: [],
  }
  const refused = [controller.reading, device.reading].find((reading) => reading.state === 'refused')
  if (refused) return { ...base, state: 'refused', remark: refused.refusal.what }
  const alone = aloneAtOdds(term, { controller, device }, context)
  if (alone) return { ...base, state: 'at-odds', remark: alone.why, fixes: alone.fixes }
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
  for (const end of ['controller', 'device'] as const) {
    const { reading, value } = ends[end]
    const found = reading.state === 'read' ? term.alone?.(value, end, context) : undefined
    if (found) return found
  }
  return undefined
}

function readEnd(term: TermDefinition<unknown>, entry: TermEntry | undefined, around: Around): EndRead {
  if (!entry || entry.text.trim() === '') return { reading: { state: 'blank' } }
  const parsed = term.parse(entry, around)
  if (!parsed.ok) return { reading: { state: 'refused', entry, refusal: parsed.refusal } }
  return { reading: { state: 'read', entry, shown: term.format(parsed.value, entry, around) }, value: parsed.value }
}
