import { ok, refusal, type Result } from '../units'

/**
 * Reads a host name: letters, digits and hyphens, no hyphen at an end, at most 63 characters a label and 253 in all.
 * @source RFC 1123 2.1; RFC 952
 */
export function parseHostName(text: string): Result<string> {
  const typed = text.trim()
  const expected = 'letters, digits and hyphens, for example plc-101'
  if (typed === '') return refusal('host.blank', 'The name is blank.', 'nothing', expected)
  if (typed.length > 253) return refusal('host.long', `The name has ${typed.length} characters.`, typed, 'at most 253')
  for (const label of typed.split('.')) {
    if (label === '')
      return refusal('host.empty-label', 'Two points stand together, or one at an end.', typed, expected)
    if (label.length > 63)
      return refusal('host.label-long', `"${label}" has ${label.length} characters.`, label, 'at most 63')
    if (!/^[a-z0-9-]+$/i.test(label)) {
      const odd = [...label].find((character) => !/[a-z0-9-]/i.test(character)) ?? ''
      const value = typed.replace(/[_\s]+/g, '-').replace(/[^a-z0-9.-]/gi, '')
      return refusal(
        'host.character',
        `"${odd}" cannot stand in a host name.`,
        typed,
        expected,
        value === '' || value === typed ? [] : [{ label: `Use ${value}`, value }],
      )
    }
    if (/^-|-$/.test(label)) return refusal('host.hyphen', `"${label}" has a hyphen at its end.`, typed, expected)
  }
  if (/^\d+(\.\d+)*$/.test(typed))
    return refusal('host.number', 'A name of digits alone is taken for an address.', typed, expected)
  return ok(typed)
}

/** Where two texts that should be equal differ. */
export interface Difference {
  /** Place of the first difference, counted from 0. */
  readonly at: number
  readonly left: string
  readonly right: string
  /** The two characters look alike: 0 and O, 1 and l and I, 5 and S, 8 and B, 2 and Z. */
  readonly looksAlike: boolean
}

const alike: readonly string[] = ['0Oo', '1lI|', '5S', '8B', '2Z', '-–—', ' \u00a0']

/** Compares two texts letter for letter. Every place where they differ is told; a text that ends earlier differs there. */
export function differences(left: string, right: string): readonly Difference[] {
  const found: Difference[] = []
  for (let at = 0; at < Math.max(left.length, right.length); at += 1) {
    const [a = '', b = ''] = [left[at], right[at]]
    if (a === b) continue
    found.push({
      at,
      left: a,
      right: b,
      looksAlike: a !== '' && b !== '' && alike.some((group) => group.includes(a) && group.includes(b)),
    })
  }
  return found
}
