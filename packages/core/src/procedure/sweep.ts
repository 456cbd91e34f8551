import { formatIpv4, parseIpv4 } from '../address'
import type { Job } from '../job'
import { portOf, presentOf } from './present'
import type { WalkRecord } from './record'

/** A search never looks at more hosts than this. */
export const MOST_HOSTS = 1_024

/** How gently a search goes: which ports it tries, connections begun in a second, and how many are open at once. */
export const sweepBounds = { ports: [502, 80], perSecond: 250, atOnce: 48 } as const

/** How long a search takes at least, s: each port of each host is one connection. @example sweepSeconds(254) // 3 */
export const sweepSeconds = (hosts: number): number =>
  Math.ceil((hosts * sweepBounds.ports.length) / sweepBounds.perSecond)

/** What answered at one address. More than one identity means that more than one device holds it. */
export interface SweepAnswer {
  readonly address: string
  readonly ports: readonly number[]
  readonly identities: readonly string[]
  readonly hardwareAddress: string | null
}

export type SweepVerdict = 'expected' | 'silent' | 'unknown' | 'twice' | 'still-old'

export const sweepVerdicts: Readonly<Record<SweepVerdict, string>> = {
  expected: 'answers as planned',
  silent: 'planned, silent',
  unknown: 'answers, nobody planned it',
  twice: 'two identities at one address',
  'still-old': 'answers at its old address',
}

/** One line of what a search found. */
export interface SweepLine {
  readonly address: string
  readonly verdict: SweepVerdict
  /** Devices that are planned there, or were found there before. */
  readonly tags: readonly string[]
  readonly answer: SweepAnswer | null
}

/**
 * Who answered, who is planned but silent, who is unknown, and where two hold one address.
 * @param looked whether an address was looked at: what was not, is neither silent nor there
 */
export function judgeSweep(
  job: Job,
  record: WalkRecord,
  answers: readonly SweepAnswer[],
  looked: (address: string) => boolean,
): readonly SweepLine[] {
  const planned = new Map<string, string[]>()
  const old = new Map<string, string[]>()
  const note = (map: Map<string, string[]>, address: string, tag: string) =>
    map.set(address, [...(map.get(address) ?? []), tag])
  for (const device of job.devices) {
    const at = portOf(device)?.address
    if (at) note(planned, at, device.tag)
    const present = presentOf(job, record, device)
    if (present && formatIpv4(present.address) !== at) note(old, formatIpv4(present.address), device.tag)
  }
  const lines = answers.map((answer): SweepLine => {
    const here = planned.get(answer.address)
    const before = old.get(answer.address)
    const verdict = answer.identities.length > 1 ? 'twice' : here ? 'expected' : before ? 'still-old' : 'unknown'
    return { address: answer.address, verdict, tags: here ?? before ?? [], answer }
  })
  const answered = new Set(answers.map((answer) => answer.address))
  for (const [address, tags] of planned)
    if (!answered.has(address) && looked(address)) lines.push({ address, verdict: 'silent', tags, answer: null })
  const order = (line: SweepLine) => {
    const read = parseIpv4(line.address)
    return read.ok ? read.value : 0
  }
  return lines.sort((a, b) => order(a) - order(b))
}
