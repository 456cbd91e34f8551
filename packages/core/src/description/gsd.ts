import type { DescribedModule, DescriptionProblem, DescriptionRemark, DeviceDescription } from './description'
import { lengthsOf } from './identifierBytes'
import { wholeOf } from './sections'

/** Bit rates by the keyword that says them. @source IEC 61784 type 3; from memory */
const RATES: Readonly<Record<string, number>> = {
  '9.6': 9600,
  '19.2': 19_200,
  '45.45': 45_450,
  '93.75': 93_750,
  '187.5': 187_500,
  '500': 500_000,
  '1.5m': 1_500_000,
  '3m': 3_000_000,
  '6m': 6_000_000,
  '12m': 12_000_000,
}

/** Whether a text is one of these files: its first line is `#` and a name that ends with `_DP`. */
export const isGsd = (text: string): boolean => /^\s*(;[^\n]*\n\s*)*#\w+_DP\b/i.test(text)

interface Logical {
  readonly line: number
  readonly text: string
}

/** Lines without comments; a line that ends with a backslash goes on in the next one. */
function logicalLines(text: string): readonly Logical[] {
  const lines: Logical[] = []
  let open: { line: number; text: string } | undefined
  text.split(/\r\n|\r|\n/).forEach((raw, k) => {
    const clean = raw.replace(/;(?=(?:[^"]*"[^"]*")*[^"]*$).*$/, '').trim()
    const goesOn = clean.endsWith('\\')
    const part = goesOn ? clean.slice(0, -1).trimEnd() : clean
    if (open) open.text += ` ${part}`
    else open = { line: k + 1, text: part }
    if (goesOn) return
    if (open.text.trim() !== '') lines.push(open)
    open = undefined
  })
  return open ? [...lines, open] : lines
}

/** What a GSD says: identity, revisions, bit rates, the most that it carries, and its modules with their lengths. */
export function readGsd(text: string): DeviceDescription | { readonly problems: readonly DescriptionProblem[] } {
  const keywords = new Map<string, { readonly value: string; readonly line: number }>()
  const modules: DescribedModule[] = []
  const remarks: DescriptionRemark[] = []
  const problems: DescriptionProblem[] = []
  const wrong = (line: number, what: string, found: string, expected: string) =>
    problems.push({
      code: 'description.line',
      line,
      what: `Line ${line}: ${what}`,
      found: found.slice(0, 80),
      expected,
      offers: [],
    })
  let block: { readonly name: string; readonly line: number } | undefined
  for (const { line, text: whole } of logicalLines(text)) {
    if (whole.startsWith('#')) continue
    const ending = /^End([A-Za-z]+)$/i.exec(whole)
    if (ending) {
      if (block?.name.toLowerCase() !== ending[1]?.toLowerCase())
        wrong(line, `${whole} has no beginning.`, whole, `${ending[1]} before it`)
      block = undefined
      continue
    }
    const found = /^([A-Za-z0-9_.]+(?:\s*\([^)]*\))?)\s*=\s*(.*)$/.exec(whole)
    if (!found) {
      // Inside of a module its own number may stand alone in a line.
      if (block && /^\d+$/.test(whole)) continue
      wrong(line, 'this is no keyword with a value.', whole, 'keyword = value')
      continue
    }
    const [, name = '', value = ''] = found
    const key = name.toLowerCase()
    if (key === 'module') {
      const made = moduleOf(value, line)
      if (made) modules.push(made)
      else wrong(line, 'the identifier bytes of the module cannot be read.', value, '"name" 0x.., 0x..')
    }
    if (OPENS.has(key)) block = { name, line }
    else if (block) continue
    else if (keywords.has(key))
      remarks.push({ line, what: `${name} stands twice; the one of line ${keywords.get(key)?.line} counts.` })
    else keywords.set(key, { value, line })
  }
  if (block) wrong(block.line, `${block.name} has no end.`, block.name, `End${block.name}`)
  if (problems.length > 0) return { problems }
  return { ...described(keywords), modules, remarks }
}

/** Keywords that begin a block with an end of its own. */
const OPENS: ReadonlySet<string> = new Set([
  'module',
  'prmtext',
  'extuserprmdata',
  'unitdiagtype',
  'slotdefinition',
  'unit_diag_area',
])

function moduleOf(value: string, line: number): DescribedModule | undefined {
  const found = /^"([^"]*)"\s*(.*)$/.exec(value)
  if (!found) return undefined
  const bytes = (found[2] ?? '')
    .split(/[\s,]+/)
    .filter(Boolean)
    .map(wholeOf)
  if (bytes.some((byte) => byte === undefined || byte > 255)) return undefined
  const lengths = lengthsOf(bytes as readonly number[])
  return lengths && { name: found[1] ?? '', ...lengths, line }
}

function described(
  keywords: ReadonlyMap<string, { readonly value: string }>,
): Omit<DeviceDescription, 'modules' | 'remarks'> {
  const value = (name: string) => keywords.get(name)?.value.replace(/^"|"$/g, '').trim()
  const number = (name: string) => wholeOf(value(name))
  return {
    format: 'type-3',
    vendor: value('vendor_name') ?? '',
    product: value('model_name') ?? '',
    orderCode: value('ordernumber'),
    identity: value('ident_number') && `ident number ${value('ident_number')}`,
    revision: value('revision'),
    fileRevision: value('gsd_revision'),
    node: undefined,
    nodes: [0, 125],
    rates: Object.entries(RATES).flatMap(([name, rate]) => (number(`${name}_supp`) === 1 ? [rate] : [])),
    inputBytes: number('max_input_len'),
    outputBytes: number('max_output_len'),
    configBytes: number('user_prm_data_len'),
    isModular: number('modular_station') === 1,
    mostModules: number('max_module'),
    // In units of 100 µs.
    fastestMs: number('min_slave_intervall') === undefined ? undefined : (number('min_slave_intervall') ?? 0) / 10,
  }
}
