import { always, speaksModbus } from './applying'
import { formatReference, parseReference, tables, type Notation, type ReferenceReading, type Table } from '../modbus'
import { tableAt } from './around'
import { takeOver } from './fixes'
import type { End, TermContext, TermDefinition, TermEntry, TermFix } from './term'

export const firstRegisterTerm: TermDefinition<readonly ReferenceReading[]> = {
  id: 'first-register',
  name: 'First register',
  group: 'request',
  relation: 'the same place, however each end counts',
  why: 'The neighbour is read: a number that looks right.',
  severity: 'wrong',
  applies: speaksModbus,
  asked: always,
  explain: 'Where the value begins. Documents count from 0 or from 1, with or without a table digit.',
  example: '30053',
  parse: (entry) => parseReference(entry.text, { notation: entry.notation }),
  format: (_readings, entry) => entry.text.trim(),
  alone: (_readings, end, context) => {
    const entry = context.terms['first-register']?.[end]
    const read = entry ? readAt(entry, end, context) : undefined
    return read && !read.ok
      ? { state: 'at-odds', why: read.refusal.what, fixes: otherReadings(end, context) }
      : undefined
  },
  agree: (_controller, _device, context) => {
    const ends = (['controller', 'device'] as const).map((end) => readingsAt(end, context))
    const [controller = [], device = []] = ends
    const [there, here] = [tableAt(context.terms, 'controller'), tableAt(context.terms, 'device')]
    if (there && here && there !== here) {
      return {
        state: 'at-odds',
        why: `${context.tags.controller} asks for ${tables[there].one}, ${context.tags.device} keeps the value in ${tables[here].one}. Make the function codes agree first.`,
        fixes: [],
      }
    }
    const shared = controller.flatMap((a) => device.filter((b) => samePlace(a, b)).map((b) => ({ a, b })))
    const [match] = shared
    if (match) {
      const sure = controller.length === 1 && device.length === 1
      const sameText =
        context.terms['first-register']?.controller?.text.trim() ===
        context.terms['first-register']?.device?.text.trim()
      if (sameText && sure) return { state: 'equal' }
      if (sameText) return { state: 'fits', remark: 'Same number; see that both count from the same' }
      return { state: 'fits', remark: `Same place: address ${match.a.address}` }
    }
    const [a] = controller
    const [b] = device
    if (!a || !b) return { state: 'equal' }
    return { state: 'at-odds', why: whyApart(a, b, context), fixes: meetingFixes(a, b, context) }
  },
  source: 'Modbus Application Protocol V1.1b3, 4.4 and clause 6; leading digits are common practice, no source',
}

const readAt = (entry: TermEntry, end: End, context: TermContext) =>
  parseReference(entry.text, { notation: entry.notation, table: tableAt(context.terms, end) })

/** What an end may mean, with everything struck out that its function code never reaches. */
function readingsAt(end: End, context: TermContext): readonly ReferenceReading[] {
  const entry = context.terms['first-register']?.[end]
  const read = entry ? readAt(entry, end, context) : undefined
  return read?.ok ? read.value : []
}

const samePlace = (a: ReferenceReading, b: ReferenceReading): boolean =>
  a.address === b.address && a.bit === b.bit && (a.table === undefined || b.table === undefined || a.table === b.table)

function whyApart(a: ReferenceReading, b: ReferenceReading, { tags }: TermContext): string {
  if (a.table && b.table && a.table !== b.table) {
    return `${tags.controller} names ${tables[a.table].one}, ${tags.device} ${tables[b.table].one}: two tables, two places.`
  }
  if (a.address === b.address)
    return `${tags.controller} and ${tags.device} name different bits of address ${a.address}.`
  const apart = Math.abs(a.address - b.address)
  return (
    `${tags.controller} begins at address ${a.address}, ${tags.device} keeps the value at ${b.address}: ${apart} apart.` +
    (apart === 1 ? ' One counts from 0, the other from 1.' : '')
  )
}

/** Each end may go to the other one's place; only what its parser then takes is offered. */
function meetingFixes(a: ReferenceReading, b: ReferenceReading, context: TermContext): readonly TermFix[] {
  const toDevice = inNotationOf('controller', b, context)
  const own: readonly TermFix[] = toDevice
    ? [
        {
          end: 'controller',
          text: toDevice.text,
          notation: toDevice.notation,
          label: `Read from address ${b.address} in ${context.tags.controller}${toDevice.remark}`,
          sideEffect: `Change it in the program of ${context.tags.controller} too.`,
        },
      ]
    : []
  const taken = takeOver('first-register', 'The register', context, {
    controller: `address ${a.address}`,
    device: `address ${b.address}`,
  }).filter((fix) => fix.end === 'device' && readAt({ ...fix, origin: '' }, 'device', context).ok)
  return [...own, ...taken]
}

interface Written {
  readonly text: string
  readonly notation: Notation
  /** Said in the label where the end's own notation cannot hold the place. */
  readonly remark: string
}

/** The other end's place as this end writes its own; where its notation cannot hold it, as the nearest one that can. */
function inNotationOf(end: End, target: ReferenceReading, context: TermContext): Written | undefined {
  const entry = context.terms['first-register']?.[end]
  const own = entry?.notation ?? readingsAt(end, context)[0]?.notation ?? 'protocol'
  const table: Table | undefined = tableAt(context.terms, end) ?? target.table
  for (const notation of [own, 'six-digit', 'protocol'] as const) {
    const written = formatReference(target.address, notation, table)
    if (!written.ok) continue
    const text = target.bit === undefined ? written.value : `${written.value}.${target.bit}`
    const readBack = parseReference(text, { notation, table })
    if (!readBack.ok || readBack.value[0]?.address !== target.address) continue
    return { text, notation, remark: notation === own ? '' : `, written ${text}: ${whyNot(target, own, table)}` }
  }
  return undefined
}

function whyNot(target: ReferenceReading, notation: Notation, table: Table | undefined): string {
  const refused = formatReference(target.address, notation, table)
  return refused.ok ? '' : lowerFirst(refused.refusal.what).replace(/\.$/, '')
}

const lowerFirst = (text: string): string => text.charAt(0).toLowerCase() + text.slice(1)

/** A number that contradicts the function may have been meant without its table digit: that is said, never assumed. */
function otherReadings(end: End, context: TermContext): readonly TermFix[] {
  const entry = context.terms['first-register']?.[end]
  if (!entry || entry.notation !== undefined) return []
  const plain = parseReference(entry.text, { notation: 'protocol', table: tableAt(context.terms, end) })
  const [reading] = plain.ok ? plain.value : []
  if (!reading) return []
  return [
    {
      end,
      text: entry.text,
      notation: reading.notation,
      label: `It counts from 0: address ${reading.address}`,
      sideEffect: 'Only if its document says so; look there first.',
    },
  ]
}
