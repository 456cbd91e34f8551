import type { Ipv4 } from '../address'
import { parseReference, tables, tableOfFunction, type ModbusRequest, type Table, type TcpUnit } from '../modbus'
import { ok, refuse, type Result } from '../units'
import { dataTypes, type ByteOrder, type DataType, type ValueFormat } from '../values'
import { neededFor } from './bitTypes'
import { termDefinition } from './catalogue'
import type { ReadFunction } from './functionCodeTerm'
import type { End, HandshakeTerms, TermId } from './term'

/** Everything that one read of a value needs. */
export interface ReadPlan {
  readonly address: Ipv4
  readonly port: number
  readonly unit: TcpUnit
  readonly request: Extract<ModbusRequest, { code: 1 | 2 | 3 | 4 }>
  readonly format: ValueFormat
  readonly scale: number
}

/** Which terms are still missing or cannot be read, with the reason. */
export interface PlanGaps {
  readonly gaps: readonly { readonly term: TermId; readonly name: string; readonly what: string }[]
}

/** How one end would read the value, by its own terms. A register that can be read in several ways takes the likeliest. */
export function readPlanOf(terms: HandshakeTerms, end: End): Result<ReadPlan, PlanGaps> {
  const gaps: PlanGaps['gaps'][number][] = []
  const gap = (id: TermId, what: string) => gaps.push({ term: id, name: termDefinition(id).name, what })
  const read = <T>(id: TermId): T | undefined => {
    const definition = termDefinition(id)
    const entry = terms[id]?.[end]
    if (!entry || entry.text.trim() === '') {
      gap(id, `${definition.name} is blank.`)
      return undefined
    }
    const parsed = definition.parse(entry, { terms, end })
    if (parsed.ok) return parsed.value as T
    gap(id, parsed.refusal.what)
    return undefined
  }
  // A reference that contradicts the function code is never read.
  const readRegister = (table: Table | undefined) => {
    const entry = terms['first-register']?.[end]
    const readings = parseReference(entry?.text ?? '', { notation: entry?.notation, table })
    if (readings.ok) return readings.value[0]
    gap('first-register', readings.refusal.what)
    return undefined
  }
  const address = read<Ipv4>('address')
  const port = read<number>('port')
  const unit = read<TcpUnit>('unit-id')
  const code = read<ReadFunction>('function-code')
  const table = code === undefined ? undefined : tableOfFunction(code)
  const ofBits = table !== undefined && tables[table].bits === 1
  const first = readRegister(table)
  const count = read<number>('count')
  const type = read<DataType>('data-type')
  // Bits travel packed in bytes: words have no order there.
  const order = ofBits ? 'ABCD' : read<ByteOrder>('word-order')
  if (ofBits && type && neededFor(type, true) === undefined) {
    gap('data-type', `${dataTypes[type].name} is made of registers; function ${code} brings bits.`)
  } else if (ofBits && type && count !== undefined && count < (neededFor(type, true) ?? 0)) {
    gap('count', `${dataTypes[type].name} takes ${neededFor(type, true)} bits; the count says ${count}.`)
  }
  const scale = terms.scale?.[end] ? read<number>('scale') : 1
  // Whatever could not be read has left a gap.
  if (gaps.length > 0 || !first) return refuse({ gaps })
  return ok({
    address,
    port,
    unit,
    request: { code, address: first.address, count },
    format: { type, order, bit: first.bit, registers: type === 'ascii' ? count : undefined },
    scale,
  } as ReadPlan)
}
