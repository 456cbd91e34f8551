import type { Bench, PolledTag } from '@calm/bench'
import { formatIpv4 } from '@calm/core/address'
import { deviceOf, handshakeTermsOf, reachedAt, type Job } from '@calm/core/job'
import { parseReference } from '@calm/core/modbus'
import { readPlanOf } from '@calm/core/terms'

/**
 * On the bench the controller's program follows the controller end of the terms, as if each change were typed into
 * the program and downloaded. A handshake whose controller end is not complete is not polled.
 */
export function loadBenchProgram(bench: Bench, job: Job): void {
  const byController = new Map<string, PolledTag[]>()
  for (const handshake of job.handshakes) {
    const at = reachedAt(job, deviceOf(job, handshake.controllerId))?.address
    if (!at) continue
    const tags = byController.get(at) ?? []
    byController.set(at, tags)
    const terms = handshakeTermsOf(job, handshake)
    for (const point of handshake.points) {
      const plan = readPlanOf(terms, 'controller', point.source)
      const served = point.served ? parseReference(point.served.register) : undefined
      const place = served?.ok ? served.value[0] : undefined
      if (!plan.ok || !place || plan.value.way.protocol !== 'modbus-tcp') continue
      const { way, request, format, scale } = plan.value
      const { address, port, unit } = way
      tags.push({
        tag: point.id,
        address: formatIpv4(address),
        port,
        unit,
        request,
        format,
        scale,
        servedAt: place.address,
      })
    }
  }
  for (const [address, tags] of byController) bench.loadProgram(address, tags)
}
