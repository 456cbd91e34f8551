import type { Change } from '../changes'
import type { Explanation } from '../explain'
import { sayStanding, standingFor, type Handshake, type Job } from '../job'
import { formatReference, protocolAddress, type Notation } from '../modbus'
import type { TermId } from '../terms'
import { registersOf } from '../values'
import type { PointPlace } from './place'

/** How registers are taken otherwise than planned. */
export type OtherReading = Pick<Explanation, 'shift' | 'format' | 'line'>

interface Entry {
  readonly termId: TermId
  readonly text: string
  readonly notation: Notation | null
}

/** The terms that differ where registers are taken so. Empty where terms cannot say it: they have no offset, and no bit. */
function entriesOf(
  { shift, format, line }: OtherReading,
  { address, table, plan }: PointPlace,
  usual: Notation,
): readonly Entry[] {
  if (line.offset !== 0 || format.bit !== undefined || address + shift < 0) return []
  const notations: readonly Notation[] = [usual, 'five-digit', 'six-digit']
  const [written] = notations.flatMap((notation) => {
    const reference = formatReference(protocolAddress(address + shift), notation, table)
    return reference.ok ? [{ text: reference.value, notation }] : []
  })
  if (!written) return []
  const [before, after] = [registersOf(plan.format), registersOf(format)]
  const plainly = (termId: TermId, text: string): Entry => ({ termId, text, notation: null })
  return [
    ...(shift !== 0 ? [{ termId: 'first-register' as const, ...written }] : []),
    ...(before !== after ? [plainly('count', String(after))] : []),
    ...(format.type !== plan.format.type ? [plainly('data-type', format.type)] : []),
    ...(format.order !== plan.format.order ? [plainly('word-order', format.order)] : []),
    ...(line.scale !== plan.scale ? [plainly('scale', String(Number(line.scale.toPrecision(12))))] : []),
  ]
}

/**
 * The terms of the device's end that an explanation changes, for a point that lies where the terms say: the clasp then
 * holds them against the controller's end. Empty where terms cannot say it.
 */
export function termsBy(
  handshake: Handshake,
  reading: OtherReading,
  place: PointPlace,
  origin: string,
  newId: () => string,
): readonly Change[] {
  return entriesOf(reading, place, 'five-digit').map(({ termId, text, notation }): Change => {
    const row = handshake.terms.find((term) => term.termId === termId && term.end === 'device')
    const fields = { text, notation, origin }
    if (row) return { op: 'set', table: 'term', id: row.id, version: row.version, fields }
    const own = { termId, end: 'device', places: [], handshakeId: handshake.id }
    return { op: 'add', table: 'term', id: newId(), fields: { ...fields, ...own } }
  })
}

const atController = (handshake: Handshake, reading: OtherReading, place: PointPlace): readonly Entry[] => {
  const planned = handshake.terms.find(({ termId, end }) => termId === 'first-register' && end === 'controller')
  return entriesOf(reading, place, planned?.notation ?? 'five-digit')
}

/** Whether the controller is known to have been found so, and nothing else was found since. */
export function isFoundAtController(job: Job, handshake: Handshake, reading: OtherReading, place: PointPlace): boolean {
  const standings = standingFor(job, handshake)
  const entries = atController(handshake, reading, place)
  return (
    entries.length > 0 &&
    entries.every(({ termId, text }) => standings.get(termId)?.controller.seen.found?.text === text)
  )
}

/**
 * What the controller was found with, where it takes the registers otherwise than planned: seen of its end, the plan
 * stays, and what is to be entered there follows from both. Written as the controller counts.
 */
export function foundAtController(
  job: Job,
  handshake: Handshake,
  reading: OtherReading,
  place: PointPlace,
  origin: string,
  newId: () => string,
): readonly Change[] {
  return atController(handshake, reading, place).map(({ termId, text, notation }) => {
    const entry = { text, ...(notation === null ? {} : { notation }) }
    const said = { row: { id: termId }, end: 'controller', standing: 'found', entry, how: 'seen', origin } as const
    return sayStanding(job, handshake, said, newId)
  })
}
