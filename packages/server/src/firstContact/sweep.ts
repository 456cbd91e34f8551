import { contains, formatIpv4, hostCount, hostsOf, ipv4FromBits, parseSubnet, subnetsOverlap } from '@calm/core/address'
import type { Job } from '@calm/core/job'
import {
  judgeSweep,
  MOST_HOSTS,
  sweepBounds,
  type LaptopState,
  type SweepAnswer,
  type SweepLine,
  type WalkRecord,
} from '@calm/core/procedure'
import { targetOf, type LiveContext } from '../live'
import { refusedBecause } from '../store'
import { subnetsOfJob } from './insideJob'
import { probe, unitAt } from './probe'

interface Sweep {
  readonly cidr: string
  readonly startedAt: number
  readonly looked: number
  readonly total: number
  readonly done: boolean
  readonly milliseconds: number
  readonly lines: readonly SweepLine[]
  readonly packetsPerSecond: number
}

/** Searches of all jobs: one at a time for each. */
export class Sweeps {
  readonly #running = new Map<string, Sweep>()
  /** Searches that somebody ended, by when they began. */
  readonly #stopped = new Set<number>()

  constructor(readonly context: LiveContext) {}

  of(jobId: string): Sweep | undefined {
    return this.#running.get(jobId)
  }

  /** Ends a search before its time: what was looked at is told, the rest was not. */
  stop(jobId: string): void {
    const running = this.#running.get(jobId)
    if (running && !running.done) this.#stopped.add(running.startedAt)
  }

  /** Begins a search inside a network of the job, or a subnet that one of its devices is in now. */
  begin(job: Job, record: WalkRecord, laptop: LaptopState, cidr: string, finished: (sweep: Sweep) => void): Sweep {
    const read = parseSubnet(cidr)
    if (!read.ok) throw refusedBecause(read.refusal.what, read.refusal.expected, cidr, 'cidr')
    const allowed = subnetsOfJob(job, record)
    if (!allowed.some((subnet) => subnetsOverlap(subnet, read.value) && subnet.prefix <= read.value.prefix))
      throw refusedBecause('A search stays inside the networks of the job.', 'a network of this job', cidr, 'cidr')
    if (hostCount(read.value) > MOST_HOSTS)
      throw refusedBecause(
        'That is too large for a search.',
        `at most ${MOST_HOSTS} hosts`,
        `${hostCount(read.value)} hosts`,
        'cidr',
      )
    if (this.#running.get(job.id)?.done === false)
      throw refusedBecause('A search is running already.', 'one search at a time', cidr, 'cidr')
    const sweep: Sweep = {
      cidr,
      startedAt: this.context.clock(),
      looked: 0,
      total: hostCount(read.value),
      done: false,
      milliseconds: 0,
      lines: [],
      packetsPerSecond: 0,
    }
    this.#running.set(job.id, sweep)
    void this.#run(job, record, laptop, sweep).then(finished, () => undefined)
    return sweep
  }

  async #run(job: Job, record: WalkRecord, laptop: LaptopState, sweep: Sweep): Promise<Sweep> {
    const read = parseSubnet(sweep.cidr)
    if (!read.ok) return sweep
    const hosts = hostsOf(read.value)
    const answers: SweepAnswer[] = []
    const start = performance.now()
    let next: number = hosts.first
    const asked = new Set<number>()
    let looked = 0
    let connections = 0
    const worker = async () => {
      while (next <= hosts.last && !this.#stopped.has(sweep.startedAt)) {
        asked.add(next)
        const address = formatIpv4(ipv4FromBits(next))
        next += 1
        connections += sweepBounds.ports.length
        const due = start + (connections / sweepBounds.perSecond) * 1000
        await pause(due - performance.now())
        const seen = await probe(this.context, job.mode, address, sweepBounds.ports, 500)
        looked += 1
        if (seen.answers)
          answers.push({
            address,
            ports: seen.ports.filter((port) => port.connection === 'open').map(({ port }) => port),
            identities: seen.identities,
            hardwareAddress: laptop.neighbours?.find((each) => each.address === address)?.hardwareAddress ?? null,
          })
        const milliseconds = performance.now() - start
        this.#running.set(job.id, {
          ...sweep,
          looked,
          milliseconds,
          packetsPerSecond: (connections / milliseconds) * 1000,
        })
      }
    }
    await Promise.all(Array.from({ length: sweepBounds.atOnce }, worker))
    const milliseconds = Math.round(performance.now() - start)
    const finished: Sweep = {
      ...sweep,
      looked,
      done: true,
      milliseconds,
      packetsPerSecond: Math.round((connections / milliseconds) * 1000),
      lines: judgeSweep(job, record, answers, (address) => {
        const at = parseSubnet(`${address}/32`)
        return at.ok && contains(read.value, at.value.base) && asked.has(at.value.base)
      }),
    }
    this.#running.set(job.id, finished)
    return finished
  }
}

const pause = (milliseconds: number) =>
  milliseconds <= 0 ? Promise.resolve() : new Promise<void>((done) => setTimeout(done, milliseconds))

/** A search of units ends after this time at the latest; what was not asked is said. */
const UNITS_LIMIT_MS = 90_000

export interface UnitsFound {
  readonly units: readonly { readonly unit: number; readonly identity: string }[]
  /** The last unit that was asked; the rest was not, because the time was over or nobody waits any more. */
  readonly askedTo: number
  readonly complete: boolean
}

/** Unit ids behind a gateway, asked one after the other: one line is one conversation. Ends when nobody waits for it. */
export async function unitsBehind(
  context: LiveContext,
  job: Job,
  place: { readonly address: string; readonly port: number },
  range: { readonly first: number; readonly last: number },
  signal: AbortSignal,
  limitMs = UNITS_LIMIT_MS,
): Promise<UnitsFound> {
  const target = targetOf(context.bench, job.mode, place.address, place.port)
  const units: { unit: number; identity: string }[] = []
  const end = performance.now() + limitMs
  let askedTo = range.first - 1
  for (let unit = range.first; target && unit <= range.last; unit += 1) {
    if (signal.aborted || performance.now() > end) return { units, askedTo, complete: false }
    const identity = await unitAt(context, target, unit, signal)
    if (signal.aborted) return { units, askedTo, complete: false }
    askedTo = unit
    if (identity !== undefined) units.push({ unit, identity })
  }
  return { units, askedTo, complete: askedTo === range.last }
}
