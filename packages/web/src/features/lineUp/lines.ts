import type { Finding } from '@calm/core/findings'
import type { Device, Job } from '@calm/core/job'
import { ladderFor } from '../../job'
import type { Ladder, RungState } from '@calm/core/ladder'

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
  const byPort = new Map<string, Finding[]>()
  for (const finding of findings) {
    const known = byPort.get(finding.subject.id)
    if (known) known.push(finding)
    else byPort.set(finding.subject.id, [finding])
  }
  const ladders = new Map(job.handshakes.map((handshake) => [handshake.deviceId, ladderFor(job, handshake)]))
  const children = (id: string) => job.devices.filter((device) => device.behindId === id)
  const lineOf = (device: Device, behind: Device | undefined, lastBehind: boolean): DeviceLine => {
    const own = device.ports.flatMap((port) => byPort.get(port.id) ?? [])
    const ladder = ladders.get(device.id)
    return { device, behind, lastBehind, findings: own, ladder, ...standing(own, ladder, carries(job, device)) }
  }
  const withChildren = (
    device: Device,
    behind: Device | undefined,
    last: boolean,
    seen: ReadonlySet<string>,
  ): DeviceLine[] => {
    if (seen.has(device.id)) return []
    const now = new Set([...seen, device.id])
    const below = children(device.id)
    return [
      lineOf(device, behind, last),
      ...below.flatMap((child, k) => withChildren(child, device, k === below.length - 1, now)),
    ]
  }
  const lines = job.devices
    .filter((device) => device.behindId === null)
    .flatMap((device) => withChildren(device, undefined, false, new Set()))
  // Two devices that hang behind each other would otherwise vanish.
  const shown = new Set(lines.map((line) => line.device.id))
  return [
    ...lines,
    ...job.devices.filter((device) => !shown.has(device.id)).map((device) => lineOf(device, undefined, false)),
  ]
}

/** What a device without a handshake of its own is there for. */
function carries(job: Job, device: Device): string {
  const asked = job.handshakes.filter((handshake) => handshake.controllerId === device.id).length
  if (asked > 0) return `Asks ${asked} device${asked === 1 ? '' : 's'}`
  const behind = job.devices.filter((each) => each.behindId === device.id).length
  return behind > 0 ? `Carries ${behind} device${behind === 1 ? '' : 's'}` : ''
}

function standing(
  findings: readonly Finding[],
  ladder: Ladder | undefined,
  carried: string,
): Pick<DeviceLine, 'state' | 'say'> {
  const trouble = findings.find((finding) => finding.severity !== 'worth-knowing')
  if (trouble) return { state: 'at-odds', say: trouble.title }
  const [note] = findings
  if (!ladder && carried !== '') return { state: 'in-hand', say: note?.title ?? carried }
  if (!ladder) return { state: 'not-started', say: note?.title ?? 'No handshake yet' }
  const odds = ladder.rungs.find((rung) => rung.state === 'at-odds')
  if (odds) return { state: 'at-odds', say: odds.rung === 'agreed' ? odds.because : `${odds.name} at odds` }
  const waiting = ladder.rungs.find((rung) => rung.state === 'waiting')
  if (waiting) return { state: 'waiting', say: waiting.because }
  const parked = ladder.rungs.find((rung) => rung.state === 'parked')
  if (parked) return { state: 'parked', say: parked.because }
  const next = ladder.rungs.find((rung) => rung.state === 'in-hand' || rung.state === 'not-started')
  if (!next) return { state: 'proven', say: 'All proven' }
  return { state: ladder.proven > 0 ? 'in-hand' : 'not-started', say: `${next.name} next` }
}
