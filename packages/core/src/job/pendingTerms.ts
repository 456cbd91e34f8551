import { restartRules, type RestartRule } from '../kind'
import type { ClaspRow, End } from '../terms'
import { deviceOf } from './deviceOf'
import type { Device, Handshake, Job } from './model'
import { modeReturnsOf, type ModeReturn } from './modeReturns'
import { settingOf } from './settings'
import { claspFor, standingFor } from './standing'
import { holderOf, type StandingState } from './termStandings'

/** One term of one device that is not at work as planned. */
export interface PendingTerm {
  readonly handshake: Handshake
  readonly row: ClaspRow
  readonly end: End
  readonly state: Extract<StandingState, 'pending' | 'to-enter' | 'otherwise'>
  readonly planned: string
  /** What stands there instead; the same as planned where it is entered already. */
  readonly there: string
}

/** What a device still waits for, with the one action that brings it into force. */
export interface PendingDevice {
  readonly device: Device
  readonly terms: readonly PendingTerm[]
  /** Modes that it was set in and has not been seen to come back from. */
  readonly returns: readonly ModeReturn[]
  /** What makes a setting of this device count. */
  readonly rule: RestartRule
  readonly say: string
  /** How long it takes, in seconds; 0 where it counts at once. */
  readonly seconds: number
}

const isPending = (state: StandingState): state is PendingTerm['state'] =>
  state === 'pending' || state === 'to-enter' || state === 'otherwise'

/**
 * Everything in the job that was entered and is not in force, or was found otherwise, by the device that has it. A term
 * that several handshakes share counts once. In the order of the line-up.
 */
export function pendingTermsOf(job: Job): readonly PendingDevice[] {
  const byDevice = new Map<string, PendingTerm[]>()
  const told = new Set<string>()
  for (const handshake of job.handshakes) {
    const standings = standingFor(job, handshake)
    for (const row of claspFor(job, handshake).rows) {
      for (const end of ['controller', 'device'] as const) {
        const standing = standings.get(row.id)?.[end]
        const reading = row.ends[end]
        if (!standing || !isPending(standing.state) || reading.state === 'blank') continue
        const key = `${holderOf(job, handshake, row.id, end)} ${row.id} ${end}`
        if (told.has(key)) continue
        told.add(key)
        const deviceId = end === 'controller' ? handshake.controllerId : handshake.deviceId
        const { 'in-force': inForce, entered, found } = standing.seen
        const latest = [inForce, entered, found].reduce((one, other) =>
          !one || (other && other.at > one.at) ? other : one,
        )
        const term: PendingTerm = {
          handshake,
          row,
          end,
          state: standing.state,
          planned: reading.entry.text,
          there: latest?.text ?? '',
        }
        const same = byDevice.get(deviceId)
        if (same) same.push(term)
        else byDevice.set(deviceId, [term])
      }
    }
  }
  return job.devices.flatMap(({ id }) => {
    const terms = byDevice.get(id) ?? []
    const device = deviceOf(job, id)
    const returns = device ? modeReturnsOf(job, device) : []
    if (!device || terms.length + returns.length === 0) return []
    const { effective, startUpSeconds } = settingOf(job, device)
    return [
      {
        device,
        terms,
        returns,
        rule: effective,
        say: restartRules[effective].say,
        seconds: effective === 'at-once' ? 0 : startUpSeconds,
      },
    ]
  })
}
