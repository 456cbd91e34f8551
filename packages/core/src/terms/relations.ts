import { takeOver } from './fixes'
import type { Agreement, AtOdds, End, TermContext, TermDefinition, TermFix } from './term'

/** What every term says of itself, however its values are read. */
export type Told = Pick<TermDefinition<unknown>, 'id' | 'name' | 'group' | 'explain' | 'why' | 'source'> &
  Partial<
    Pick<TermDefinition<unknown>, 'applies' | 'asked' | 'relation' | 'severity' | 'derive' | 'choices' | 'example'>
  >

type Shown = Readonly<Record<End, string>>

/** At odds: both values, why it matters, and either end set to the other one's. */
export const apart = (term: Told, context: TermContext, shown: Shown, why?: string): AtOdds => ({
  state: 'at-odds',
  why: why ?? `${context.tags.controller}: ${shown.controller}. ${context.tags.device}: ${shown.device}. ${term.why}`,
  fixes: takeOver(term.id, term.name, context, shown),
})

/** At odds by one end alone, with what that end can be set to. */
export const aloneApart = (
  end: End,
  why: string,
  context: TermContext,
  to: readonly { readonly text: string; readonly shown?: string }[] = [],
): AtOdds => ({ state: 'at-odds', why, fixes: to.map(({ text, shown }) => setTo(end, text, shown ?? text, context)) })

/** One end set to a value that neither of them has yet. */
export const setTo = (end: End, text: string, shown: string, { tags }: TermContext): TermFix => ({
  end,
  text,
  label: `Set ${tags[end]} to ${shown}`,
  sideEffect:
    end === 'controller'
      ? `Change it in the program of ${tags.controller} too.`
      : `Change it in ${tags.device} too; it may need a restart.`,
})

/** What an end says of another term, as far as it can be read: relations hang on meanings, never on how they are written. */
export function valueAt<T>(term: TermDefinition<T>, { terms }: TermContext, end: End): T | undefined {
  const entry = terms[term.id]?.[end]
  const read = entry && term.parse(entry, { terms, end })
  return read?.ok ? read.value : undefined
}

export const equal: Agreement = { state: 'equal' }
export const fits = (remark: string): Agreement => ({ state: 'fits', remark })
