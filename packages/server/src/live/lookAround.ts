import { forbiddenOf } from '@calm/core/packing'
import type { LookAround } from '@calm/contract'
import type { Handshake, Job, Point } from '@calm/core/job'
import { exceptionMeaning, limits, protocolAddress, type ModbusRequest } from '@calm/core/modbus'
import { registersOf } from '@calm/core/values'
import { explainOutcome } from '../exchange'
import { askingOf, wayText } from './channelOf'
import { hopPlan, readHop, type LiveContext } from './readHop'

/** Registers before and behind a point that are read with it. */
const AROUND = 4
/** Exceptions that say the span touches what is not there: illegal address, illegal value. */
const NOT_THERE: ReadonlySet<number> = new Set([2, 3])

/**
 * Reads the registers around a point once, and what the controller shows of it. Where the device refuses the whole
 * span, each register is asked for by itself: at most a dozen small reads, on request of a person.
 */
export async function lookAround(
  context: LiveContext,
  job: Job,
  handshake: Handshake,
  point: Point,
): Promise<LookAround> {
  const [seen, controller] = await Promise.all([
    lookAtDevice(context, job, handshake, point),
    readHop(context, job, 'controller', hopPlan(job, handshake, point, 'controller'), point.decimals),
  ])
  return { ...seen, controller: { value: controller.value, silence: controller.silence } }
}

type Seen = Omit<LookAround, 'controller'>

interface Span {
  readonly first: number
  readonly last: number
}

/** Addresses that must not be read, of the table that a function reads. */
function barsOf(handshake: Handshake, code: 3 | 4): readonly Span[] {
  const table = code === 3 ? 'holding-registers' : 'input-registers'
  return forbiddenOf(handshake.unreadable, table).filter((each) => each.table === table)
}

/** A few registers to each side of a point, as far as nothing stands there that must not be read. */
export function windowAround({ first, last }: Span, bars: readonly Span[]): Span {
  const below = bars.filter((bar) => bar.last < first).map((bar) => bar.last + 1)
  const above = bars.filter((bar) => bar.first > last).map((bar) => bar.first - 1)
  return {
    first: Math.max(0, first - AROUND, ...below),
    last: Math.min(limits.lastAddress, last + AROUND, ...above),
  }
}

async function lookAtDevice(context: LiveContext, job: Job, handshake: Handshake, point: Point): Promise<Seen> {
  const plan = hopPlan(job, handshake, point, 'device')
  const none: Seen = {
    at: context.clock(),
    mode: job.mode,
    asked: '',
    servedAt: '',
    first: 0,
    words: [],
    requests: 0,
    silence: '',
  }
  if (plan.missing !== undefined) return { ...none, silence: plan.missing }
  const { code } = plan.request
  if (code !== 3 && code !== 4) return { ...none, silence: 'A single bit has no words around it: read it in Proof.' }
  const asking = askingOf(context.bench, job.mode, plan.way)
  if ('missing' in asking) return { ...none, asked: wayText(plan.way), silence: asking.missing }
  const own = { first: plan.request.address, last: plan.request.address + registersOf(plan.format) - 1 }
  const { first, last } = windowAround(own, barsOf(handshake, code))
  let requests = 0
  const read = async (
    address: number,
    count: number,
  ): Promise<readonly number[] | 'not-there' | { readonly what: string }> => {
    requests += 1
    const request: ModbusRequest = { code, address: protocolAddress(address), count }
    const outcome = await asking.ask(context.pool, request)
    if (outcome.kind !== 'answered') return explainOutcome(outcome)
    const { response } = outcome
    if (response.kind === 'words') return response.words
    if (response.kind !== 'exception') return { what: 'The answer carries no words.' }
    if (NOT_THERE.has(response.exception)) return 'not-there'
    return { what: `It answers exception ${response.exception}, ${exceptionMeaning(response.exception).name}.` }
  }
  const placed = { ...none, asked: asking.asked, servedAt: asking.servedAt, first }
  const whole = await read(first, last - first + 1)
  if (whole !== 'not-there' && !('what' in whole)) return { ...placed, at: context.clock(), words: whole, requests }
  if (whole !== 'not-there') return { ...placed, requests, silence: whole.what }
  const words: (number | null)[] = []
  for (let address = first; address <= last; address += 1) {
    const one = await read(address, 1)
    if (one !== 'not-there' && 'what' in one) return { ...placed, requests, silence: one.what }
    words.push(one === 'not-there' ? null : (one[0] ?? null))
  }
  const silence = words.every((word) => word === null) ? 'It has no register anywhere around this place.' : ''
  return { ...placed, at: context.clock(), words, requests, silence }
}
