import { deviceOf } from './deviceOf'
import { lineMedia } from './media'
import type { Handshake, Job, Line } from './model'

/** Whether characters go over a line of this kind, with a bit rate and a parity. */
export const isSerial = ({ medium }: Pick<Line, 'medium'>): boolean => medium.startsWith('rs-') && medium in lineMedia

/** The serial line that the device end of a handshake sits on; `undefined` where it sits on none. */
export function serialLineOf(job: Job, handshake: Pick<Handshake, 'deviceId'>): Line | undefined {
  if (!job.lines.some(isSerial)) return undefined
  const device = deviceOf(job, handshake.deviceId)
  return job.lines.find((line) => isSerial(line) && device?.nodes.some(({ lineId }) => lineId === line.id))
}
