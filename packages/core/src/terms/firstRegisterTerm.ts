import { formatReference, parseReference, tables, type ReferenceReading } from '../modbus'
import { functionCodeTerm } from './functionCodeTerm'
import { takeOver } from './fixes'
import type { End, TermContext, TermDefinition } from './term'

export const firstRegisterTerm: TermDefinition<readonly ReferenceReading[]> = {
  id: 'first-register',
  name: 'First register',
  group: 'request',
  explain: 'Where the value begins. Documents count from 0 or from 1, with or without a table digit.',
  example: '30053',
  parse: (entry) => parseReference(entry.text, entry.notation),
  format: (_readings, entry) => entry.text.trim(),
  agree: (controller, device, context) => {
    const tableClash = wrongTable(device, context)
    if (tableClash) return { state: 'at-odds', why: tableClash, fixes: [] }
    const shared = controller.flatMap((a) => device.filter((b) => b.address === a.address).map((b) => ({ a, b })))
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
    const apart = Math.abs(a.address - b.address)
    return {
      state: 'at-odds',
      why:
        `${context.tags.controller} begins at address ${a.address}, ${context.tags.device} keeps the value at ${b.address}: ${apart} apart.` +
        (apart === 1 ? ' One counts from 0, the other from 1.' : ''),
      fixes: [
        {
          end: 'controller',
          ...inNotationOf('controller', b, context),
          label: `Read from address ${b.address} in ${context.tags.controller}`,
          sideEffect: `Change it in the program of ${context.tags.controller} too.`,
        },
        ...takeOver('first-register', 'The register', context, {
          controller: `address ${a.address}`,
          device: `address ${b.address}`,
        }).slice(1),
      ],
    }
  },
  source: 'Modbus Application Protocol V1.1b3, 4.4; leading digits are common practice, no source',
}

/** The other end's place, written as this end writes its own. */
function inNotationOf(end: End, target: ReferenceReading, context: TermContext) {
  const own = context.terms['first-register']?.[end]
  const reading = own ? parseReference(own.text, own.notation) : undefined
  const notation = own?.notation ?? (reading?.ok ? reading.value[0]?.notation : undefined) ?? 'protocol'
  return { text: formatReference(target.address, notation, target.table), notation: own?.notation }
}

/** `30053` names an input register; a function code that reads holding registers never gets there. */
function wrongTable(device: readonly ReferenceReading[], context: TermContext): string | undefined {
  const entry = context.terms['function-code']?.controller
  const code = entry ? functionCodeTerm.parse(entry) : undefined
  const named = device.find((reading) => reading.table)
  if (!code?.ok || !named?.table || (device.length > 1 && device.some((reading) => !reading.table))) return undefined
  return tables[named.table].readBy === code.value
    ? undefined
    : `${named.explanation}: it is a ${tables[named.table].name}, read by function code 0${tables[named.table].readBy}, not 0${code.value}.`
}
