import type { Finding } from '@calm/core/findings'
import { type Device, type Job, ladderFor, waitsFor } from '@calm/core/job'
import type { Ladder, RungState } from '@calm/core/ladder'
import { childrenOf, deviceIdsOfRows } from '../../../job'

/** One line of the line-up: a device with what is found about it and how its handshake stands. */
export interface DeviceLine {
  readonly device: Device
  readonly behind: Device | undefined
  readonly lastBehind: boolean
  readonly findings: readonly Finding[]
  readonly ladder: Ladder | undefined
  readonly state: RungState
  /** What stands in the last column. */
  readonly say: string
}

/** Devices in their order; those behind another one come right after it. */
export function linesOf(job: Job, findings: readonly Finding[]): readonly DeviceLine[] {
  const owners = deviceIdsOfRows(job)
  const byDevice = new Map<string, Finding[]>()
  for (const finding of findings) {
    const owner = owners.get(finding.subject.id)
    if (owner === undefined) continue
    const known = byDevice.get(owner)
    if (known) known.push(finding)
    else byDevice.set(owner, [finding])
  }
  const ladders = new Map(job.handshakes.map((handshake) => [handshake.deviceId, ladderFor(job, handshake)]))
  const asked = new Map<string, number>()
  for (const { controllerId } of job.handshakes) asked.set(controllerId, (asked.get(controllerId) ?? 0) + 1)
  const children = childrenOf(job)
  const lineOf = (device: Device, behind: Device | undefined, lastBehind: boolean): DeviceLine => {
    const own = byDevice.get(device.id) ?? []
    const ladder = ladders.get(device.id)
    const carried = carries(asked.get(device.id) ?? 0, children.get(device.id)?.length ?? 0)
    return {
      device,
      behind,
      lastBehind,
      findings: own,
      ladder,
      ...standing(own, ladder, carried, waiting(job, device)),
    }
  }
  const lines: DeviceLine[] = []
  const shown = new Set<string>()
  const add = (device: Device, behind: Device | undefined, last: boolean) => {
    if (shown.has(device.id)) return
    shown.add(device.id)
    lines.push(lineOf(device, behind, last))
    const below = children.get(device.id) ?? []
    below.forEach((child, k) => add(child, device, k === below.length - 1))
  }
  for (const device of children.get(null) ?? []) add(device, undefined, false)
  // Two devices that hang behind each other would otherwise vanish.
  for (const device of job.devices) {
    if (!shown.has(device.id)) {
      shown.add(device.id)
      lines.push(lineOf(device, undefined, false))
    }
  }
  return lines
}

/** @example several(1, 'row') // '1 row' */
export const several = (count: number, what: string) => `${count} ${what}${count === 1 ? '' : 's'}`

/** What a device without a handshake of its own is there for. */
function carries(askedCount: number, behindCount: number): string {
  if (askedCount > 0) return `Asks ${several(askedCount, 'device')}`
  return behindCount > 0 ? `Carries ${several(behindCount, 'device')}` : ''
}

function waiting(job: Job, device: Device): string | undefined {
  const [request] = waitsFor(job, device.id)
  return request && `Waits for: ${request.what}`
}

function standing(
  findings: readonly Finding[],
  ladder: Ladder | undefined,
  carried: string,
  waitsOn: string | undefined,
): Pick<DeviceLine, 'state' | 'say'> {
  const trouble = findings.find((finding) => finding.severity !== 'worth-knowing')
  if (trouble) return { state: 'at-odds', say: trouble.title }
  if (waitsOn !== undefined) return { state: 'waiting', say: waitsOn }
  const [note] = findings
  if (!ladder && carried !== '') return { state: 'in-hand', say: note?.title ?? carried }
  if (!ladder) return { state: 'not-started', say: note?.title ?? 'No handshake yet' }
  const odds = ladder.rungs.find((rung) => rung.state === 'at-odds')
  if (odds) return { state: 'at-odds', say: odds.rung === 'agreed' ? odds.because : `${odds.name} at odds` }
  const waits = ladder.rungs.find((rung) => rung.state === 'waiting')
  if (waits) return { state: 'waiting', say: waits.because }
  const parked = ladder.rungs.find((rung) => rung.state === 'parked')
  if (parked) return { state: 'parked', say: parked.because }
  const next = ladder.rungs.find((rung) => rung.state === 'in-hand' || rung.state === 'not-started')
  if (!next) return { state: 'proven', say: 'All proven' }
  return { state: ladder.proven > 0 ? 'in-hand' : 'not-started', say: `${next.name} next` }
}
