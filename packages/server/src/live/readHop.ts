import { forbiddenOf } from '@calm/core/packing'
import type { Bench } from '@calm/bench'
import type { LiveHop, LiveReading } from '@calm/contract'
import { parseIpv4 } from '@calm/core/address'
import { deviceOf, devicePlanOf, reachedAt, type Handshake, type Job, type Point } from '@calm/core/job'
import {
  exceptionMeaning,
  functionText,
  limits,
  parseReference,
  parseUnitId,
  tableOfFunction,
  tables,
  tcpUnit,
  type ModbusResponse,
} from '@calm/core/modbus'
import type { ReadPlan } from '@calm/core/terms'
import { dataTypes, decodeValue, formatRaw, registersOf, scaled } from '@calm/core/values'
import { explainOutcome, type ExchangePool } from '../exchange'
import { askingOf, wayText } from './channelOf'

/** What a read of a hop needs from around it. */
export interface LiveContext {
  readonly pool: ExchangePool
  readonly bench: Bench | undefined
  readonly clock: () => number
}

/** How one hop is asked, or why it is not. */
export type HopPlan = (ReadPlan & { readonly missing?: never }) | { readonly missing: string }

/**
 * Everything that a reading depends on besides the wire: where it asks, what it asks, what it makes of the words. Two
 * readings with the same text may stand for each other; a reading of another text proves nothing about this plan.
 */
export function planText(plan: HopPlan): string {
  if (plan.missing !== undefined) return `nothing: ${plan.missing}`
  const { way, request, format, scale, offset } = plan
  const place = `${functionText(request.code)} from address ${request.address}, count ${request.count}`
  const bit = format.bit === undefined ? '' : ` bit ${format.bit}`
  const line = way.protocol === 'modbus-rtu' ? `, ${way.settings}` : ''
  return `${wayText(way)}${line}, unit ${way.unit}, ${place}, ${dataTypes[format.type].name}${bit} ${format.order}, × ${scale}${offset === 0 ? '' : ` + ${offset}`}`
}

/** The device by its own terms; the controller at the register where it serves the tag. */
export function hopPlan(job: Job, handshake: Handshake, point: Point, hop: LiveHop): HopPlan {
  if (hop === 'device') {
    const plan = devicePlanOf(job, handshake, point)
    if (!plan.ok) return { missing: plan.refusal.gaps.map((gap) => gap.what).join(' ') }
    return unlessBarred(plan.value, handshake)
  }
  const device = deviceOf(job, handshake.controllerId)
  const port = reachedAt(job, device)
  if (!point.served) return { missing: 'The controller serves no register for this tag; type what its program shows.' }
  const address = parseIpv4(port?.address ?? '')
  if (!port || !address.ok) return { missing: `${device?.tag ?? 'The controller'} has no planned address yet.` }
  const reading = parseReference(point.served.register)
  const first = reading.ok ? reading.value[0] : undefined
  if (!first) return { missing: `The register of the tag, "${point.served.register}", cannot be read.` }
  const unit = parseUnitId(String(device?.unitId ?? limits.directTcpUnit), 'tcp')
  // A tag whose register names no table is served as a holding register: the point's dialog says so.
  const table = first.table ?? 'holding-registers'
  const { type, order } = point.served
  const format = { type, order, bit: first.bit }
  if (tables[table].bits === 1 && type !== 'bool') {
    return { missing: `The tag is served as ${tables[table].one}, one bit; its type says ${dataTypes[type].name}.` }
  }
  return {
    way: {
      protocol: 'modbus-tcp',
      address: address.value,
      port: port.tcpPort,
      unit: unit.ok ? unit.value : tcpUnit(limits.directTcpUnit),
    },
    request: { code: tables[table].readBy, address: first.address, count: registersOf(format) },
    format,
    scale: 1,
    offset: 0,
  }
}

type Seen = Omit<LiveReading, 'sequence' | 'pointId'>

/** An answer that belongs to its request, with what is told of how it was asked. */
export interface AnsweredHop {
  readonly base: Seen
  readonly response: ModbusResponse
}

/** A plan, unless it would read what must not be read: then it is not asked, and says so. */
export function unlessBarred(plan: ReadPlan, { unreadable }: Handshake): HopPlan {
  const { code, address, count } = plan.request
  const table = tableOfFunction(code)
  if (unreadable === '' || !table) return plan
  const bar = forbiddenOf(unreadable, table).find(
    (each) => each.table === table && each.first < address + count && each.last >= address,
  )
  return bar
    ? { missing: `Addresses ${bar.first} to ${bar.last} must not be read; this would read ${address} on.` }
    : plan
}

/** Asks one hop once. Whatever is not a proper answer is a reading without a value, with its reason. */
export async function askHop(
  context: LiveContext,
  job: Job,
  hop: LiveHop,
  plan: HopPlan,
  signal?: AbortSignal,
): Promise<AnsweredHop | Seen> {
  const base = {
    hop,
    mode: job.mode,
    asked: '',
    servedAt: '',
    requestHex: '',
    responseHex: '',
    roundTripMs: null,
    words: null,
    value: null,
    text: '',
    silence: '',
    hint: '',
    unsure: '',
  }
  if (plan.missing !== undefined) {
    return { ...base, at: context.clock(), silence: plan.missing, hint: 'Complete it in Terms or Line-up.' }
  }
  const asking = askingOf(context.bench, job.mode, plan.way)
  if ('missing' in asking)
    return { ...base, asked: wayText(plan.way), at: context.clock(), silence: asking.missing, hint: '' }
  const outcome = await asking.ask(context.pool, plan.request, signal)
  const seen = {
    ...base,
    asked: asking.asked,
    at: context.clock(),
    servedAt: asking.servedAt,
    requestHex: outcome.trace.sent,
    responseHex: outcome.trace.received,
    unsure: outcome.trace.unsure ?? '',
  }
  if (outcome.kind !== 'answered') {
    const { what, hint } = explainOutcome(outcome)
    return { ...seen, silence: what, hint }
  }
  return { base: { ...seen, roundTripMs: outcome.trace.milliseconds }, response: outcome.response }
}

/** What an answer says of a point. */
export const seenBy = (
  { base }: AnsweredHop,
  response: ModbusResponse,
  plan: Pick<ReadPlan, 'format' | 'scale' | 'offset'>,
  decimals: number,
): Seen => ({ ...base, ...valueOf(response, plan, decimals) })

/** Asks one hop for one point, once. */
export async function readHop(
  context: LiveContext,
  job: Job,
  hop: LiveHop,
  plan: HopPlan,
  decimals: number,
  signal?: AbortSignal,
): Promise<Seen> {
  const asked = await askHop(context, job, hop, plan, signal)
  if (!('response' in asked) || plan.missing !== undefined) return asked as Seen
  return seenBy(asked, asked.response, plan, decimals)
}

type Decoded = Pick<LiveReading, 'words' | 'value' | 'text' | 'silence' | 'hint'>

function valueOf(
  response: ModbusResponse,
  plan: Pick<ReadPlan, 'format' | 'scale' | 'offset'>,
  decimals: number,
): Decoded {
  const none = { words: null, value: null, text: '', hint: '' }
  if (response.kind === 'exception') {
    const { name, hint } = exceptionMeaning(response.exception)
    return { ...none, silence: `It answers exception ${response.exception}, ${name}.`, hint }
  }
  if (response.kind === 'bits') {
    if (plan.format.type === 'bits16') {
      const value = response.bits.slice(0, 16)
      return { ...none, text: formatRaw({ kind: 'bits', value }), silence: '' }
    }
    const on = response.bits[0] ?? false
    return { ...none, value: on ? 1 : 0, text: on ? 'on' : 'off', silence: '' }
  }
  if (response.kind !== 'words') return { ...none, silence: 'The answer carries no value.' }
  const decoded = decodeValue(response.words, plan.format)
  if (!decoded.ok) return { ...none, words: response.words, silence: decoded.refusal.what }
  const value = scaled(decoded.value, plan)
  const finite = value !== undefined && Number.isFinite(value)
  return {
    words: response.words,
    value: finite ? value : null,
    text: value === undefined ? formatRaw(decoded.value) : formatRaw({ kind: 'number', value }, decimals),
    silence: finite || value === undefined ? '' : 'It holds "not a number": nothing has filled it.',
    hint: finite || value === undefined ? '' : 'See whether the program reads the device at all.',
  }
}
