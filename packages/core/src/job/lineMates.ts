import type { TermId } from '../terms'
import { deviceOf } from './deviceOf'
import type { Handshake, Job, Line } from './model'
import { lineOf, stationsOn } from './serialLine'

/** Handshakes by their line, and the line of each; made once for each state of the lists that it follows from. */
interface ByLine {
  readonly devices: Job['devices']
  readonly lines: Job['lines']
  readonly line: ReadonlyMap<string, Line>
  readonly handshakes: ReadonlyMap<string, readonly Handshake[]>
  /** What all of a line say together, by its id; filled as it is asked for. */
  readonly says: Map<string, string>
}
const indexes = new WeakMap<Job['handshakes'], ByLine>()

function byLine(job: Job): ByLine {
  const known = indexes.get(job.handshakes)
  if (known && known.devices === job.devices && known.lines === job.lines) return known
  const line = new Map<string, Line>()
  const handshakes = new Map<string, Handshake[]>()
  for (const each of job.handshakes) {
    const own = lineOf(job, each)
    if (!own) continue
    line.set(each.id, own)
    const same = handshakes.get(own.id)
    if (same) same.push(each)
    else handshakes.set(own.id, [each])
  }
  const made = { devices: job.devices, lines: job.lines, line, handshakes, says: new Map() }
  indexes.set(job.handshakes, made)
  return made
}

/** The other handshakes whose device sits on the same line. */
export function lineMates(job: Job, handshake: Handshake): readonly Handshake[] {
  if (job.lines.length === 0) return []
  const index = byLine(job)
  const line = index.line.get(handshake.id)
  return line ? (index.handshakes.get(line.id) ?? []).filter(({ id }) => id !== handshake.id) : []
}

/** Terms that are judged over the whole line. */
const LINE_WIDE: readonly TermId[] = ['termination', 'bias', 'unit-loads', 'node']

/**
 * What the handshakes of a line say of the terms that are judged over it, how their ends are called, the nodes of their
 * devices, and how many devices sit there, as one text: while it is the same, no verdict of a mate can have changed.
 * Blank where the device sits on no line.
 */
export function lineSays(job: Job, handshake: Handshake): string {
  if (job.lines.length === 0) return ''
  const index = byLine(job)
  const line = index.line.get(handshake.id)
  if (!line) return ''
  const known = index.says.get(line.id)
  if (known !== undefined) return known
  const said = (index.handshakes.get(line.id) ?? []).map((each) => {
    const terms = each.terms.filter(({ termId }) => LINE_WIDE.includes(termId))
    const device = deviceOf(job, each.deviceId)
    return [
      each.id,
      deviceOf(job, each.controllerId)?.tag,
      device?.tag,
      ...terms.map(({ termId, end, text }) => [termId, end, text]),
      ...(device?.nodes.map(({ lineId, node }) => [lineId, node]) ?? []),
    ]
  })
  // Names and texts hold any character: only quoted are two different lists never the same text.
  const text = JSON.stringify([stationsOn(job, line), said])
  index.says.set(line.id, text)
  return text
}
