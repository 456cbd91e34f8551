import type { Ipv4 } from '../address'
import type { ModbusRequest, ReferenceReading, UnitId } from '../modbus'
import { ok, refuse, type Result } from '../units'
import type { ByteOrder, DataType, ValueFormat } from '../values'
import { termDefinition } from './catalogue'
import type { ReadFunction } from './functionCodeTerm'
import type { End, HandshakeTerms, TermId } from './term'

/** Everything that one read of a value needs. */
export interface ReadPlan {
  readonly address: Ipv4
  readonly port: number
  readonly unit: UnitId
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
  const read = <T>(id: TermId): T | undefined => {
    const definition = termDefinition(id)
    const entry = terms[id]?.[end]
    if (!entry || entry.text.trim() === '') {
      gaps.push({ term: id, name: definition.name, what: `${definition.name} is blank.` })
      return undefined
    }
    const parsed = definition.parse(entry)
    if (parsed.ok) return parsed.value as T
    gaps.push({ term: id, name: definition.name, what: parsed.refusal.what })
    return undefined
  }
  const address = read<Ipv4>('address')
  const port = read<number>('port')
  const unit = read<UnitId>('unit-id')
  const code = read<ReadFunction>('function-code')
  const first = read<readonly ReferenceReading[]>('first-register')?.[0]
  const count = read<number>('count')
  const type = read<DataType>('data-type')
  const order = read<ByteOrder>('word-order')
  const scale = terms.scale?.[end] ? read<number>('scale') : 1
  if (
    address === undefined ||
    port === undefined ||
    unit === undefined ||
    code === undefined ||
    !first ||
    count === undefined ||
    !type ||
    !order ||
    scale === undefined
  ) {
    return refuse({ gaps })
  }
  return ok({
    address,
    port,
    unit,
    request: { code, address: first.address, count },
    format: { type, order, bit: first.bit, registers: type === 'ascii' ? count : undefined },
    scale,
  })
}
