import type { RestartRule, WayOfSetting } from '../kind'
import type { ClaspRow, TermId } from '../terms'
import type { Device, Handshake, Job } from './model'
import { settingOf } from './settings'
import { claspFor } from './standing'
import { holderOf, meansTheSame, seenAt } from './termStandings'

/** A mode that a device is brought to in order to be set, and the one that it must come back to. */
interface ModeNeeded {
  readonly id: TermId
  readonly during: string
  readonly after: string
}

/** @source common practice, no source */
const byWay: Readonly<Partial<Record<WayOfSetting, ModeNeeded>>> = {
  keypad: { id: 'local-remote', during: 'local', after: 'remote' },
  'keypad-last-octet': { id: 'local-remote', during: 'local', after: 'remote' },
  'serial-menu': { id: 'port-mode', during: 'console', after: 'protocol' },
}
/** @source common practice, no source */
const byRule: Readonly<Partial<Record<RestartRule, ModeNeeded>>> = {
  download: { id: 'program-run', during: 'program', after: 'run' },
}

/** A mode that a device was set in, and whose return nobody has seen since. */
export interface ModeReturn {
  readonly handshake: Handshake
  readonly row: ClaspRow
  readonly during: string
  readonly after: string
  /** When something was last entered at the device, ms since 1970. */
  readonly since: number
}

/**
 * Modes that a device was brought to so that it could be set, as its way of setting needs them, and from which nobody
 * has seen it come back since the last entry. Only where somebody said
 * the mode at its terms: many a keypad knows neither local nor remote.
 */
export function modeReturnsOf(job: Job, device: Device): readonly ModeReturn[] {
  const { way, effective } = settingOf(job, device)
  const needed = [byWay[way], byRule[effective]].flatMap((each) => each ?? [])
  if (needed.length === 0) return []
  const open = new Map<TermId, ModeReturn>()
  for (const handshake of job.handshakes.filter(({ deviceId }) => deviceId === device.id)) {
    const { rows } = claspFor(job, handshake)
    const since = latestEntry(job, handshake, rows)
    if (since === undefined) continue
    for (const { id, during, after } of needed) {
      const row = rows.find((each) => each.id === id)
      if (!row || open.has(id)) continue
      const isBack = seenAt(job, holderOf(job, handshake, id, 'device')).some(
        (seen) =>
          seen.termId === id &&
          seen.end === 'device' &&
          seen.standing === 'in-force' &&
          seen.at >= since &&
          meansTheSame(id, 'device', { text: seen.text }, { text: after }, {}),
      )
      if (!isBack) open.set(id, { handshake, row, during, after, since })
    }
  }
  return [...open.values()]
}

/** When something other than a mode was last entered at the device end. */
function latestEntry(job: Job, handshake: Handshake, rows: readonly ClaspRow[]): number | undefined {
  let latest: number | undefined
  for (const { id } of rows) {
    if (modes.has(id)) continue
    for (const { termId, end, standing, at } of seenAt(job, holderOf(job, handshake, id, 'device')))
      if (termId === id && end === 'device' && standing === 'entered' && (latest === undefined || at > latest))
        latest = at
  }
  return latest
}
const modes: ReadonlySet<TermId> = new Set([...Object.values(byWay), ...Object.values(byRule)].map(({ id }) => id))
