import { addLoads, cyclicLoad, type CyclicExchange, type CyclicLoad } from '../cyclic'
import { readSize, readQuantity, type Clasp, type TermId } from '../terms'
import { deviceOf } from './deviceOf'
import type { Handshake, Job } from './model'
import { claspFor } from './standing'

/** The text of a term at the controller, else at the device. */
function textAt(clasp: Clasp, id: TermId): string | undefined {
  const row = [...clasp.rows, ...clasp.more].find((each) => each.id === id)
  for (const end of ['controller', 'device'] as const) {
    const reading = row?.ends[end]
    if (reading?.state === 'read') return reading.entry.text
  }
  return undefined
}

/** What a cyclic handshake exchanges, by its terms; what is missing where it cannot be said. */
export function cyclicExchangeOf(job: Job, handshake: Handshake): CyclicExchange | { readonly missing: string } {
  const clasp = claspFor(job, handshake)
  const size = (id: TermId, name: string) => {
    const text = textAt(clasp, id)
    const read = text === undefined ? undefined : readSize(text, name)
    return read?.ok ? read.value.bytes : undefined
  }
  const [inputBytes, outputBytes] = [size('input-size', 'Input size'), size('output-size', 'Output size')]
  const text = textAt(clasp, 'update-interval')
  const interval =
    text === undefined
      ? undefined
      : readQuantity(text, { name: 'Update interval', unit: 'ms', units: { s: 1000 }, least: 0.1, most: 60_000 })
  if (inputBytes === undefined) return { missing: 'its input size' }
  if (outputBytes === undefined) return { missing: 'its output size' }
  if (!interval?.ok) return { missing: 'its update interval' }
  return { inputBytes, outputBytes, intervalMs: interval.value, hasRunIdle: true }
}

/** All that a controller exchanges by cyclic connections, and what could not be counted. */
export interface ControllerCyclic {
  readonly counted: readonly { readonly tag: string; readonly exchange: CyclicExchange }[]
  readonly notCounted: readonly { readonly tag: string; readonly missing: string }[]
  readonly load: CyclicLoad
}

export function controllerCyclicOf(job: Job, controllerId: string): ControllerCyclic {
  const own = job.handshakes
    .filter((each) => each.controllerId === controllerId && each.exchange === 'cyclic')
    .map((each) => ({ tag: deviceOf(job, each.deviceId)?.tag ?? '', exchange: cyclicExchangeOf(job, each) }))
  const counted = own.flatMap(({ tag, exchange }) => ('missing' in exchange ? [] : [{ tag, exchange }]))
  return {
    counted,
    notCounted: own.flatMap(({ tag, exchange }) => ('missing' in exchange ? [{ tag, missing: exchange.missing }] : [])),
    load: addLoads(counted.map(({ exchange }) => cyclicLoad(exchange))),
  }
}
