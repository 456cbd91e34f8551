import type { Change } from '../changes'
import type { RankedExplanation } from '../explain'
import type { Handshake } from '../job'
import { formatReference, protocolAddress, type Notation } from '../modbus'
import type { TermId } from '../terms'
import { registersOf } from '../values'
import type { PointPlace } from './place'

/**
 * The terms of the device's end that an explanation changes, for a point that lies where the terms say: the clasp then
 * holds them against the controller's end. Empty where terms cannot say it: they have no offset, and no bit of a word.
 */
export function termsBy(
  handshake: Handshake,
  { shift, format, line }: RankedExplanation,
  { address, table, plan }: PointPlace,
  origin: string,
  newId: () => string,
): readonly Change[] {
  if (line.offset !== 0 || format.bit !== undefined || address + shift < 0) return []
  const written = formatReference(protocolAddress(address + shift), 'five-digit', table)
  const longer = written.ok ? written : formatReference(protocolAddress(address + shift), 'six-digit', table)
  if (!longer.ok) return []
  const [before, after] = [registersOf(plan.format), registersOf(format)]
  const notation: Notation = written.ok ? 'five-digit' : 'six-digit'
  const next: readonly (readonly [isChanged: boolean, id: TermId, text: string, notation: Notation | null])[] = [
    [shift !== 0, 'first-register', longer.value, notation],
    [before !== after, 'count', String(after), null],
    [format.type !== plan.format.type, 'data-type', format.type, null],
    [format.order !== plan.format.order, 'word-order', format.order, null],
    [line.scale !== plan.scale, 'scale', String(Number(line.scale.toPrecision(12))), null],
  ]
  return next.flatMap(([isChanged, termId, text, written]): readonly Change[] => {
    if (!isChanged) return []
    const row = handshake.terms.find((term) => term.termId === termId && term.end === 'device')
    const fields = { text, notation: written, origin }
    return row
      ? [{ op: 'set', table: 'term', id: row.id, version: row.version, fields }]
      : [
          {
            op: 'add',
            table: 'term',
            id: newId(),
            fields: { ...fields, termId, end: 'device', places: [], handshakeId: handshake.id },
          },
        ]
  })
}
