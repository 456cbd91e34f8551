import { functionText, serialUnit } from '../modbus'
import { rtuSizes, type Poll } from '../serial'
import { exchanges, readPlanOf, readQuantity } from '../terms'
import { handshakeTermsOf } from './handshakeTerms'
import type { Job, Line } from './model'

/** A poll of a line, with the handshake that asks it. */
export interface LinePoll extends Poll {
  readonly handshakeId: string
  /** What is asked, in words: `03 read holding registers, 2 from 10`. */
  readonly asks: string
}

/** What is asked on a serial line as the terms of its handshakes stand, and what could not be counted. */
export interface LinePolls {
  readonly line: Line
  readonly polls: readonly LinePoll[]
  /** Devices on the line that nothing is counted for, with the reason. */
  readonly notCounted: readonly { readonly tag: string; readonly what: string }[]
}

/** A time that stands in a term, in ms; `undefined` where nobody says it. */
function msOf(text: string | undefined): number | undefined {
  const read =
    text === undefined
      ? undefined
      : readQuantity(text, { name: 'Time', unit: 'ms', units: { s: 1000 }, least: 0, most: 3_600_000 })
  return read?.ok ? read.value : undefined
}

/**
 * Every read that the controllers ask on a line, by the terms at their end: of each handshake its request, and of each
 * point with a place of its own one more. The same request of the same device counts once.
 * How often, and how long a device takes, its terms say where somebody said it there.
 * @param deviceMs how long a device takes before it answers, where nothing better is known, ms
 */
export function linePollsOf(job: Job, line: Line, deviceMs: number): LinePolls {
  const polls: LinePoll[] = []
  const notCounted: { tag: string; what: string }[] = []
  // What is asked does not hang on the way that it goes.
  const anyWay = {
    protocol: 'modbus-rtu',
    line: line.name,
    path: '',
    settings: line.settings,
    unit: serialUnit(1),
  } as const
  const onIt = job.devices.filter(({ nodes }) => nodes.some(({ lineId, isMaster }) => lineId === line.id && !isMaster))
  for (const { id, tag } of onIt) {
    const handshakes = job.handshakes.filter(({ deviceId }) => deviceId === id)
    if (handshakes.length === 0) notCounted.push({ tag, what: 'No controller asks it yet.' })
    const asked = new Set<string>()
    for (const handshake of handshakes) {
      if (handshake.exchange !== 'modbus') {
        notCounted.push({ tag, what: `${exchanges[handshake.exchange].name} is not counted here.` })
        continue
      }
      const terms = handshakeTermsOf(job, handshake)
      const answersAfter = msOf(terms.timeout?.device?.text)
      const every = msOf(terms['poll-interval']?.controller?.text)
      for (const own of [null, ...handshake.points.flatMap(({ source }) => source ?? [])]) {
        const plan = readPlanOf(terms, 'controller', own, anyWay)
        if (!plan.ok) {
          notCounted.push({ tag, what: plan.refusal.gaps[0]?.what ?? 'What is asked is not known.' })
          continue
        }
        const { request } = plan.value
        const asks = `${functionText(request.code)}, ${request.count} from ${request.address}`
        if (asked.has(asks)) continue
        asked.add(asks)
        polls.push({
          handshakeId: handshake.id,
          name: tag,
          asks,
          bytes: rtuSizes(request),
          deviceMs: answersAfter ?? deviceMs,
          intervalMs: every ?? 0,
        })
      }
    }
  }
  return { line, polls, notCounted }
}
