import type { DescriptionProblem, DescriptionRemark } from './description'

/** One line `name = value` of a file, continued lines put together. */
export interface Entry {
  readonly name: string
  readonly value: string
  readonly line: number
}

/** Entries of one section, by their name in small letters; of a name that comes twice the first one counts. */
export interface Section {
  readonly name: string
  readonly line: number
  readonly entries: ReadonlyMap<string, Entry>
}

export interface Sections {
  readonly sections: ReadonlyMap<string, Section>
  readonly remarks: readonly DescriptionRemark[]
  readonly problems: readonly DescriptionProblem[]
}

const problem = (line: number, what: string, found: string, expected: string): DescriptionProblem => ({
  code: 'description.line',
  line,
  what: `Line ${line}: ${what}`,
  found: found.slice(0, 80),
  expected,
  offers: [],
})

/** How a format writes its lines. */
export interface Writing {
  /** A mark that begins a comment anywhere outside of quotes. */
  readonly comment: string
  /** A value ends with this mark and may go over several lines; blank where each line is one value. */
  readonly ends: '' | ';'
}

/**
 * Reads sections `[name]` with lines `name = value`. The first of a repeated section or keyword counts, and the
 * repetition is told. What is no such line is a problem with its line.
 */
export function readSections(text: string, { comment, ends }: Writing): Sections {
  const sections = new Map<string, { name: string; line: number; entries: Map<string, Entry> }>()
  const remarks: DescriptionRemark[] = []
  const problems: DescriptionProblem[] = []
  let current: { name: string; line: number; entries: Map<string, Entry> } | undefined
  let isRepeated = false
  let open: { name: string; line: number; value: string } | undefined
  const close = (value: string) => {
    if (!open || !current) return
    const key = open.name.toLowerCase()
    if (isRepeated) return void (open = undefined)
    if (current.entries.has(key))
      remarks.push({ line: open.line, what: `${open.name} stands twice in [${current.name}]; the first one counts.` })
    else current.entries.set(key, { name: open.name, value: value.trim(), line: open.line })
    open = undefined
  }
  text.split(/\r\n|\r|\n/).forEach((raw, k) => {
    const line = k + 1
    const clean = withoutComment(raw, comment).trim()
    if (clean === '') return
    if (open && ends !== '') {
      open.value += ` ${clean}`
      if (clean.endsWith(ends)) close(open.value.slice(0, -1))
      return
    }
    const head = /^\[([^\]]+)\]$/.exec(clean)
    if (head) {
      const name = (head[1] ?? '').trim()
      const known = sections.get(name.toLowerCase())
      isRepeated = known !== undefined
      if (known) remarks.push({ line, what: `Section [${name}] stands twice; the one of line ${known.line} counts.` })
      current = known ?? { name, line, entries: new Map() }
      sections.set(name.toLowerCase(), current)
      return
    }
    const found = /^([A-Za-z0-9_. /-]+?)\s*=\s*(.*)$/.exec(clean)
    if (!found)
      return void problems.push(
        problem(line, 'this is neither a section nor a value.', clean, 'name = value, or [section]'),
      )
    if (!current)
      return void problems.push(problem(line, 'a value stands before the first section.', clean, '[section] before it'))
    const [, name = '', value = ''] = found
    open = { name, line, value }
    if (ends === '') close(value)
    else if (value.endsWith(ends)) close(value.slice(0, -1))
  })
  if (open)
    problems.push(
      problem(
        (open as { line: number }).line,
        `${(open as { name: string }).name} has no end.`,
        (open as { value: string }).value,
        `a value that ends with ${ends}`,
      ),
    )
  return { sections, remarks, problems }
}

/** A line without its comment; a mark between quotes is none. */
function withoutComment(line: string, comment: string): string {
  let quoted = false
  for (let k = 0; k < line.length; k += 1) {
    if (line[k] === '"') quoted = !quoted
    else if (!quoted && line.startsWith(comment, k)) return line.slice(0, k)
  }
  return line
}

/** Parts between commas; commas between quotes are none. */
export function parts(value: string): readonly string[] {
  return (value.match(/("[^"]*"|[^,])+|(?<=,)(?=,)|^(?=,)/g) ?? []).map((part) => part.trim().replace(/^"|"$/g, ''))
}

/** A whole number, decimal or `0x…`; `undefined` where it is none. */
export function wholeOf(text: string | undefined): number | undefined {
  const typed = text?.trim() ?? ''
  return /^(0x[0-9a-f]+|\d+)$/i.test(typed) ? Number(typed) : undefined
}
