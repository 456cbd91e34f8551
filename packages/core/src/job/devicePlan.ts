import { limits, serialUnit } from '../modbus'
import { exchanges, readPlanOf, type PlanGaps, type ReadPlan, type SerialWay } from '../terms'
import { refuse, type Result } from '../units'
import { deviceOf } from './deviceOf'
import { handshakeTermsOf } from './handshakeTerms'
import type { Device, Handshake, Job, Point } from './model'

/**
 * The serial line on which a device is asked straight from this laptop: it has no address of its own, and somebody said
 * which serial port its line is plugged into. Its node on the line is its unit.
 */
export function serialWayOf(job: Job, device: Device | undefined): SerialWay | undefined {
  if (!device || device.ports.length > 0) return undefined
  for (const { lineId, node } of device.nodes) {
    const line = job.lines.find((each) => each.id === lineId)
    if (!line || line.laptopPort === '' || node === null) continue
    if (node < limits.firstUnit || node > limits.lastSerialUnit) continue
    const { name, laptopPort, settings } = line
    return { protocol: 'modbus-rtu', line: name, path: laptopPort, settings, unit: serialUnit(node) }
  }
  return undefined
}

/**
 * How a device is read by its own terms: each point of it, or, without one, what the terms say. What all points share is
 * looked up once.
 */
export function devicePlansOf(job: Job, handshake: Handshake): (point?: Point) => Result<ReadPlan, PlanGaps> {
  const { isRead, name } = exchanges[handshake.exchange]
  const terms = handshakeTermsOf(job, handshake)
  const way = serialWayOf(job, deviceOf(job, handshake.deviceId))
  return (point) => {
    if (isRead || point?.source) return readPlanOf(terms, 'device', point?.source, way)
    const what = `${name} is not read by this program itself: type what is seen.`
    return refuse({ gaps: [{ term: 'function-code', name, what }] })
  }
}

/** How one point of a device is read by the device's own terms; without one, what the terms say. */
export const devicePlanOf = (job: Job, handshake: Handshake, point?: Point): Result<ReadPlan, PlanGaps> =>
  devicePlansOf(job, handshake)(point)
