import { deviceOf, type Handshake, type Job, type Point } from '@calm/core/job'
import type { PicturedValue } from '@calm/core/procedure'
import { hopPlan, readHop, type LiveContext } from '../live'

/** A picture is one look: what is not read by then was not looked at. */
const LONGEST_MS = 20_000
/** Devices that are asked at once. */
const AT_ONCE = 8

/** Where a device is whose values are asked for: where they are planned to be read, there and silent, or not there. */
export type WhereItIs = 'there' | 'silent' | 'elsewhere'

interface Asked {
  readonly handshake: Handshake
  readonly device: string
  readonly point: Point
}

/**
 * Every planned value, read once at its device: one after the other at each device, several devices at once.
 * @param stands where a device is, by its id: who is silent is not asked once more for each of its values
 */
export async function picturedValues(
  context: LiveContext,
  job: Job,
  stands: (deviceId: string) => WhereItIs,
): Promise<readonly PicturedValue[]> {
  const byDevice = new Map<string, Asked[]>()
  for (const handshake of job.handshakes) {
    const device = deviceOf(job, handshake.deviceId)?.tag ?? ''
    const asked = handshake.points.map((point): Asked => ({ handshake, device, point }))
    byDevice.set(handshake.deviceId, [...(byDevice.get(handshake.deviceId) ?? []), ...asked])
  }
  const signal = AbortSignal.timeout(LONGEST_MS)
  const queue = [...byDevice]
  const values: PicturedValue[] = []
  const work = async () => {
    for (let next = queue.shift(); next; next = queue.shift()) {
      const [deviceId, asked] = next
      for (const each of asked) values.push(await valueOf(context, job, each, stands(deviceId), signal))
    }
  }
  await Promise.all(Array.from({ length: AT_ONCE }, work))
  return values
}

async function valueOf(
  context: LiveContext,
  job: Job,
  { handshake, device, point }: Asked,
  stands: WhereItIs,
  signal: AbortSignal,
): Promise<PicturedValue> {
  const base = { device, point: point.tag, tolerance: point.tolerance }
  const unasked = (text: string) => ({ ...base, value: null, text, unasked: true as const })
  if (stands === 'silent') return { ...base, value: null, text: 'It is silent.' }
  if (stands === 'elsewhere') return unasked('it is not at its planned address, or the laptop is in no subnet of it')
  const plan = hopPlan(job, handshake, point, 'device')
  if (plan.missing !== undefined) return unasked(plan.missing)
  if (signal.aborted) return unasked('time was over')
  const { value, text, silence } = await readHop(context, job, 'device', plan, point.decimals, signal)
  if (signal.aborted) return unasked('time was over')
  return value === null
    ? { ...base, value, text: silence || text }
    : { ...base, value, text: `${text} ${point.unit}`.trim() }
}
