import { deviceOf } from './deviceOf'
import { lineMedia } from './media'
import type { Handshake, Job, Line } from './model'

/** Whether characters go over a line of this kind, with a bit rate and a parity. */
export const isSerial = ({ medium }: Pick<Line, 'medium'>): boolean => medium.startsWith('rs-') && medium in lineMedia

/** The line or bus that the device end of a handshake sits on; a serial line comes before a bus. */
export function lineOf(job: Job, handshake: Pick<Handshake, 'deviceId'>): Line | undefined {
  if (job.lines.length === 0) return undefined
  const device = deviceOf(job, handshake.deviceId)
  const own = job.lines.filter((line) => device?.nodes.some(({ lineId }) => lineId === line.id))
  return own.find(isSerial) ?? own[0]
}

/** How many devices sit on each line, made once for each list. */
const counts = new WeakMap<Job['devices'], ReadonlyMap<string, number>>()

/** How many devices sit on a line. */
export function stationsOn({ devices }: Pick<Job, 'devices'>, line: Pick<Line, 'id'>): number {
  let known = counts.get(devices)
  if (!known) {
    const made = new Map<string, number>()
    for (const { nodes } of devices)
      for (const lineId of new Set(nodes.map((node) => node.lineId))) made.set(lineId, (made.get(lineId) ?? 0) + 1)
    known = made
    counts.set(devices, made)
  }
  return known.get(line.id) ?? 0
}

/** The serial line that the device end of a handshake sits on; `undefined` where it sits on none. */
export function serialLineOf(job: Job, handshake: Pick<Handshake, 'deviceId'>): Line | undefined {
  if (!job.lines.some(isSerial)) return undefined
  const device = deviceOf(job, handshake.deviceId)
  return job.lines.find((line) => isSerial(line) && device?.nodes.some(({ lineId }) => lineId === line.id))
}
