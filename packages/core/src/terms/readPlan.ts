import type { Ipv4 } from '../address'
import {
  parseReference,
  tables,
  tableOfFunction,
  type ModbusRequest,
  type SerialUnit,
  type Table,
  type TcpUnit,
} from '../modbus'
import { ok, refuse, type Result } from '../units'
import { dataTypes, registersOf, type ByteOrder, type DataType, type ValueFormat } from '../values'
import { neededFor } from './bitTypes'
import { termDefinition } from './catalogue'
import type { ReadFunction } from './functionCodeTerm'
import type { End, HandshakeTerms, TermId } from './term'

/** How an end is reached over TCP: the device itself, or the gateway that it hangs behind. */
export interface TcpWay {
  readonly protocol: 'modbus-tcp'
  readonly address: Ipv4
  readonly port: number
  readonly unit: TcpUnit
}

/** How a device is reached on a serial line that is plugged into this laptop. */
export interface SerialWay {
  readonly protocol: 'modbus-rtu'
  /** The name of the line. */
  readonly line: string
  /** The serial port of the laptop, as its system calls it. */
  readonly path: string
  /** In short, for example `9600 8N1`. */
  readonly settings: string
  readonly unit: SerialUnit
}

/** The way to an end, by protocol. */
export type Way = TcpWay | SerialWay

/** Everything that one read of a value needs. */
export interface ReadPlan {
  readonly way: Way
  readonly request: Extract<ModbusRequest, { code: 1 | 2 | 3 | 4 }>
  readonly format: ValueFormat
  readonly scale: number
  /** Added after the scale. */
  readonly offset: number
}

/** Which terms are still missing or cannot be read, with the reason. */
export interface PlanGaps {
  readonly gaps: readonly { readonly term: TermId; readonly name: string; readonly what: string }[]
}

/** Where a point lies, where that is not what the terms say. */
export interface OwnPlace {
  readonly register: string
  readonly type: DataType
  readonly order: ByteOrder
  readonly scale: number
  /** Added after the scale; none where it is left out. */
  readonly offset?: number | undefined
}

/**
 * How one end would read a value: by its own terms, or, for a point with a place of its own, from there. A register that
 * can be read in several ways takes the likeliest.
 * @param serial the line on which the end is reached, where it is not reached over TCP
 */
export function readPlanOf(
  terms: HandshakeTerms,
  end: End,
  own?: OwnPlace | null,
  serial?: SerialWay,
): Result<ReadPlan, PlanGaps> {
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
    const entry = own ? { text: own.register, notation: undefined } : terms['first-register']?.[end]
    const readings = parseReference(entry?.text ?? '', { notation: entry?.notation, table })
    if (readings.ok) return readings.value[0]
    gap('first-register', readings.refusal.what)
    return undefined
  }
  const way: Way =
    serial ??
    ({
      protocol: 'modbus-tcp',
      address: read<Ipv4>('address'),
      port: read<number>('port'),
      unit: read<TcpUnit>('unit-id'),
    } as TcpWay)
  const code = functionOf(own) ?? read<ReadFunction>('function-code')
  const table = code === undefined ? undefined : tableOfFunction(code)
  const ofBits = table !== undefined && tables[table].bits === 1
  const first = readRegister(table)
  const type = own ? own.type : read<DataType>('data-type')
  // Bits travel packed in bytes: words have no order there.
  const order = ofBits ? 'ABCD' : own ? own.order : read<ByteOrder>('word-order')
  const count = own ? ownCount(own, ofBits) : read<number>('count')
  if (ofBits && type && neededFor(type, true) === undefined) {
    gap('data-type', `${dataTypes[type].name} is made of registers; function ${code} brings bits.`)
  } else if (ofBits && type && count !== undefined && count < (neededFor(type, true) ?? 0)) {
    gap('count', `${dataTypes[type].name} takes ${neededFor(type, true)} bits; the count says ${count}.`)
  }
  const scale = own ? own.scale : terms.scale?.[end] ? read<number>('scale') : 1
  // Whatever could not be read has left a gap.
  if (gaps.length > 0 || !first) return refuse({ gaps })
  return ok({
    way,
    request: { code, address: first.address, count },
    format: { type, order, bit: first.bit, registers: type === 'ascii' ? count : undefined },
    scale,
    offset: own?.offset ?? 0,
  } as ReadPlan)
}

/**
 * A place that names its table (`40108`) is read by that table's function, whatever the terms say of other points. Not
 * so where the table is of bits and the value is made of registers: `12000` is then more likely an address than a
 * discrete input, and contradicts the function as before.
 */
function functionOf(own: OwnPlace | null | undefined): ReadFunction | undefined {
  const readings = own ? parseReference(own.register) : undefined
  const table = readings?.ok ? readings.value[0]?.table : undefined
  if (!own || !table || (tables[table].bits === 1 && neededFor(own.type, true) === undefined)) return undefined
  return tables[table].readBy
}

/** What is asked for a point with a place of its own: as much as its type takes. */
const ownCount = ({ type, order }: OwnPlace, ofBits: boolean): number =>
  (ofBits ? neededFor(type, true) : undefined) ?? registersOf({ type, order })
